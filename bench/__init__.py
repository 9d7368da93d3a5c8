"""Benchmarks: what is promised about speed, measured. Run: ./hearth bench"""

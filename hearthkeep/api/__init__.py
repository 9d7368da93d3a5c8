"""The web interface: thin routers, request and response models, error mapping."""

from hearthkeep.api.app import create_app

__all__ = ["create_app"]

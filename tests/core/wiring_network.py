"""The wiring of a design as a graph, written apart from the code it checks: what opens between each source and each run.

It takes the sized runs (keys, ends, ampacities, devices) and the design, and nothing of how the product goes along them: paths are
found by networkx. Strings of the bank are nodes of their own, each behind its lead.
"""

from __future__ import annotations

import networkx as nx

from hearthkeep.core.design import Design


def rating(sized) -> float | None:
    device = sized.device
    if device is None or device.kind.value == "none":
        return None
    return device.rating_a


def graph_of(design: Design, runs) -> nx.Graph:
    """Nodes are parts, edges runs; each edge with what opens on it [A] and how many alike lie side by side."""
    graph = nx.Graph()
    by_key = {sized.run.key: sized for sized in runs}
    strings, breaker_a = design.bank.parallel, design.bank.unit_breaker_a
    for number in range(strings):
        # A string, its own breakers, and its lead to the bars.
        graph.add_edge(f"string-{number}", f"post-{number}", opens=breaker_a, run=None)
        lead = by_key.get("string-leads")
        graph.add_edge(
            f"post-{number}", "bars", opens=None if lead is None else rating(lead), run="string-leads" if lead else None
        )
    bank = by_key.get("bank")
    graph.add_edge("bars", "bus", opens=None if bank is None else rating(bank), run="bank" if bank else None)
    for key, sized in by_key.items():
        kind = sized.run.kind.value
        if kind in ("controller", "source", "inverter", "feed"):
            graph.add_edge(
                sized.run.start if kind in ("controller", "source") else sized.run.end,
                "bus",
                opens=rating(sized),
                run=key,
            )
        elif kind == "branch" and sized.run.fed_from.value == "bus":
            graph.add_edge(sized.run.end, sized.run.start, opens=rating(sized), run=key)
    return graph


def opens_before(design: Design, graph: nx.Graph, key: str) -> float | None:
    """The least that all strings of the bank together can drive through a run until something opens [A]; none where nothing does.

    A cut between all strings and the run's own far end: ratings are what each edge lets through, an edge without a device anything.
    """
    flow = nx.DiGraph()
    for one, other, data in graph.edges(data=True):
        for a, b in ((one, other), (other, one)):
            if data["opens"] is None:
                flow.add_edge(a, b)
            else:
                flow.add_edge(a, b, capacity=data["opens"])
    for number in range(design.bank.parallel):
        flow.add_edge("source", f"string-{number}")
    far = next((one, other) for one, other, data in graph.edges(data=True) if data["run"] == key)
    reached = nx.shortest_path_length(graph, "string-0")
    end = max(far, key=lambda node: reached[node])
    try:
        return float(nx.maximum_flow_value(flow, "source", end))
    except nx.NetworkXUnbounded:
        return None

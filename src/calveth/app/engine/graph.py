"""What is known of each node and design, and of which values: states without threads or Qt."""

from __future__ import annotations

from collections.abc import Container, Iterable, Iterator
from dataclasses import dataclass, field
from typing import Any, Literal

from calveth.app.engine.nodes import Node
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Design
from calveth.core.project import Project

Key = tuple[object, ...]
Kind = Literal["ready", "stale", "working", "failed", "absent"]


def key_of(project: Project, design: Design) -> Key:
    """Return what the answers of a design depend on; not its place in the list, nor any price."""
    materials = project.material_table()
    used = sorted(design.material_ids)
    return (design, project.place, project.colony, *(materials[m] for m in used))


@dataclass(frozen=True, slots=True)
class State:
    """State of one node for one design.

    ``value`` is the answer when it is ready, the last one of other values when it is stale or
    being worked out, else None; ``share`` is how far the work is; ``sentence`` why it failed.
    """

    kind: Kind
    value: Any = None
    share: float = 0.0
    sentence: str = ""


@dataclass(frozen=True, slots=True, eq=False)
class Ticket:
    """One question that was asked of the worker; an answer to one that is withdrawn is unwanted."""

    node: Node
    design_id: str
    key: Key


@dataclass(slots=True)
class _Cell:
    key: Key | None = None  # values the answer is of
    value: Any = None
    failed: Key | None = None
    sentence: str = ""
    asked: Ticket | None = None
    share: float = 0.0


@dataclass(slots=True)
class Graph:
    """The cells of all designs."""

    nodes: tuple[Node, ...]
    keys: dict[str, Key] = field(default_factory=dict)
    _cells: dict[tuple[str, str], _Cell] = field(default_factory=dict)

    def clear(self) -> None:
        """Forget everything."""
        self.keys.clear()
        self._cells.clear()

    def _cell(self, node: str, design_id: str) -> _Cell:
        return self._cells.setdefault((node, design_id), _Cell())

    def put_keys(self, keys: dict[str, Key]) -> list[str]:
        """Take the values designs have now; return the designs whose answers are stale by it."""
        for gone in set(self.keys) - set(keys):
            for node in self.nodes:
                self._cells.pop((node.name, gone), None)
        changed = [d for d, key in keys.items() if self.keys.get(d) != key]
        self.keys = dict(keys)
        return changed

    def state(self, node: str, design_id: str) -> State:
        """Return the state of a node for a design."""
        key, cell = self.keys.get(design_id), self._cells.get((node, design_id))
        if key is None or cell is None:
            return State("absent")
        if cell.key == key:
            return State("ready", cell.value)
        if cell.failed == key:
            return State("failed", sentence=cell.sentence)
        if cell.asked is not None and cell.asked.key == key:
            return State("working", cell.value, cell.share)
        return State("absent" if cell.value is None else "stale", cell.value)

    def value(self, node: str, design_id: str) -> Any:
        """Return the answer of a node, None unless it is ready."""
        state = self.state(node, design_id)
        return state.value if state.kind == "ready" else None

    def last(self, node: str, design_id: str) -> Any:
        """Return the newest answer of a node, of whatever values."""
        cell = self._cells.get((node, design_id))
        return cell.value if cell is not None else None

    def wanting(
        self, order: Iterable[str], chosen: str, looked_at: Container[str] = ()
    ) -> Iterator[tuple[Node, str]]:
        """Yield what can be asked: not known, not asked, not failed, all it needs ready.

        ``looked_at`` names the nodes somebody looks at, of those that wait for it.
        """
        for design_id in order:
            for node in self.nodes:
                if node.chosen and design_id != chosen:
                    continue
                if node.in_sight and node.name not in looked_at:
                    continue
                if self.state(node.name, design_id).kind in ("absent", "stale") and all(
                    self.state(n, design_id).kind == "ready" for n in node.needs
                ):
                    yield node, design_id

    def ask(self, node: Node, design_id: str) -> Ticket:
        """Mark a node as being worked out; return the question."""
        cell = self._cell(node.name, design_id)
        cell.asked, cell.share = Ticket(node, design_id, self.keys[design_id]), 0.0
        return cell.asked

    def wants(self, ticket: Ticket) -> bool:
        """Return whether the answer to a question would still be of use."""
        cell = self._cells.get((ticket.node.name, ticket.design_id))
        return (
            cell is not None
            and cell.asked is ticket
            and self.keys.get(ticket.design_id) == ticket.key
        )

    def give_up(self, node: str, design_id: str, *, for_good: bool) -> None:
        """Take a question back; ``for_good`` it is not asked again for the same values."""
        cell = self._cell(node, design_id)
        if for_good and cell.asked is not None:
            cell.failed, cell.sentence = cell.asked.key, ""
        cell.asked = None

    def put_share(self, ticket: Ticket, share: float) -> None:
        """Take how far the work is."""
        self._cell(ticket.node.name, ticket.design_id).share = share

    def put(self, ticket: Ticket, answer: object) -> bool:
        """Take an answer, or the error there is instead; return whether it is of today's values."""
        if self.keys.get(ticket.design_id) != ticket.key:
            return False
        cell = self._cell(ticket.node.name, ticket.design_id)
        if isinstance(answer, Exception):
            cell.failed, cell.sentence = ticket.key, sentence_for(answer, ticket.node)
        else:
            cell.key, cell.value, cell.failed = ticket.key, answer, None
        return True


def sentence_for(error: Exception, node: Node) -> str:
    """Return what is said when a piece of work ended in an error."""
    if isinstance(error, CalvethError):
        return str(error)
    return f"{node.words} could not be worked out; Help, Log says why"

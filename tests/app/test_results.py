"""Results: the chosen design at once, the rest later, late answers dropped."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from concurrent.futures import Executor, Future
from typing import Any
from unittest import mock

from calveth.app.document import Document
from calveth.app.engine.graph import Graph
from calveth.app.engine.nodes import NODES, Node
from calveth.app.pictures import InlineExecutor
from calveth.app.results import Results
from calveth.catalogue.shipped import demo_project
from calveth.core.edits import set_layer_thickness, set_place
from calveth.core.nest.steady import NotBalancedError
from tests.app.base import REMEMBERING, WindowTest

PROJECT = demo_project()


class HeldExecutor(Executor):
    """Keeps work until the test lets it go."""

    def __init__(self) -> None:
        self.held: list[Callable[[], Any]] = []

    def submit(self, fn: Callable[..., Any], /, *args: Any, **kwargs: Any) -> Future[Any]:
        self.held.append(lambda: fn(*args, **kwargs))
        return Future()

    def release(self) -> None:
        held, self.held = self.held, []
        for work in held:
            work()


class Base(WindowTest):
    def start(
        self, executor: Executor, nodes: tuple[Node, ...] = REMEMBERING
    ) -> tuple[Document, Results]:
        document = Document(PROJECT)
        results = Results(document, executor, nodes)
        self.addCleanup(results.close)
        results.start()
        return document, results

    def drain(self, results: Results, executor: HeldExecutor) -> None:
        for _ in range(200):
            executor.release()
            self.app.processEvents()
            if results.idle() and not executor.held:
                return
            from PySide6.QtTest import QTest

            QTest.qWait(5)
        self.fail("never idle")

    def thicken(self, document: Document, mm: float, design: str = "polystyrene") -> None:
        document.edit("t", lambda p: set_layer_thickness(p, design, "walls", 0, mm / 1000))


class Order(Base):
    def test_everything_comes_in_time(self) -> None:
        executor = HeldExecutor()
        _, results = self.start(executor)
        self.assertIsNone(results.monthly("polystyrene"))
        self.drain(results, executor)
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                self.assertIsNotNone(results.monthly(design.id))
                self.assertIsNotNone(results.nights(design.id))
                row = results.row(design.id, 0)
                assert row is not None
                self.assertIsNotNone(row.winter_honey_range_kg)

    def test_the_chosen_design_answers_at_once(self) -> None:
        executor = HeldExecutor()
        document, results = self.start(executor)
        self.drain(results, executor)
        before = results.monthly("polystyrene")
        self.thicken(document, 60)
        after = results.monthly("polystyrene")
        assert before is not None and after is not None
        self.assertLess(after.conductance_w_k, before.conductance_w_k)
        # Nights are slower: until the worker has them they are stale, not wrong.
        self.assertIsNone(results.nights("polystyrene"))
        self.assertIsNotNone(results.nights("timber"))
        self.drain(results, executor)
        self.assertIsNotNone(results.nights("polystyrene"))

    def test_another_place_makes_all_stale(self) -> None:
        executor = HeldExecutor()
        document, results = self.start(executor)
        self.drain(results, executor)
        warmer = PROJECT.place.months[6:] + PROJECT.place.months[:6]
        from dataclasses import replace

        document.edit("p", lambda p: set_place(p, replace(p.place, months=warmer)))
        self.assertIsNone(results.monthly("timber"))
        self.drain(results, executor)
        timber = results.monthly("timber")
        assert timber is not None
        self.assertEqual(timber.coldest_month, 6)


class Late(Base):
    def test_a_late_answer_does_not_overwrite_a_newer_one(self) -> None:
        executor = HeldExecutor()
        document, results = self.start(executor)
        self.drain(results, executor)
        results.current = "timber"
        self.thicken(document, 60)  # polystyrene: goes to the worker
        self.assertEqual(len(executor.held), 1)
        late = executor.held.pop()
        self.thicken(document, 80)
        newer = executor.held.pop()
        newer()
        self.app.processEvents()
        late()
        self.app.processEvents()
        got = results.monthly("polystyrene")
        assert got is not None
        self.assertEqual(got.design.shell.walls[0].thickness_m, 0.08)

    def test_values_left_behind_are_not_worked_out(self) -> None:
        executor = HeldExecutor()
        document, results = self.start(executor)
        self.drain(results, executor)
        results.current = "timber"
        self.thicken(document, 60)
        self.thicken(document, 80)
        with mock.patch("calveth.app.engine.nodes.assess_months", wraps=None) as never:
            executor.held.pop(0)()
            never.assert_not_called()
        self.drain(results, executor)

    def test_a_removed_design_is_forgotten(self) -> None:
        from calveth.core.edits import remove_design

        executor = HeldExecutor()
        document, results = self.start(executor)
        document.edit("r", lambda p: remove_design(p, "aircrete"))
        self.drain(results, executor)
        self.assertIsNone(results.monthly("aircrete"))


class States(unittest.TestCase):
    """The graph alone: no thread, no window."""

    def setUp(self) -> None:
        self.graph = Graph(NODES)
        self.draft, self.months = NODES[0], NODES[1]
        self.graph.put_keys({"a": ("one",)})

    def test_from_absent_to_ready_to_stale(self) -> None:
        graph = self.graph
        self.assertEqual(graph.state("draft", "a").kind, "absent")
        ticket = graph.ask(self.draft, "a")
        graph.put_share(ticket, 0.5)
        self.assertEqual(graph.state("draft", "a").share, 0.5)
        self.assertTrue(graph.put(ticket, "answer"))
        self.assertEqual(graph.value("draft", "a"), "answer")
        self.assertEqual(graph.put_keys({"a": ("two",)}), ["a"])
        state = graph.state("draft", "a")
        self.assertEqual((state.kind, state.value), ("stale", "answer"))
        self.assertIsNone(graph.value("draft", "a"))
        self.assertEqual(graph.last("draft", "a"), "answer")

    def test_an_answer_for_values_that_are_gone_is_not_taken(self) -> None:
        ticket = self.graph.ask(self.draft, "a")
        self.graph.put_keys({"a": ("two",)})
        self.assertFalse(self.graph.wants(ticket))
        self.assertFalse(self.graph.put(ticket, "late"))
        self.assertIsNone(self.graph.last("draft", "a"))
        self.graph.put_keys({})
        self.assertFalse(self.graph.put(ticket, "later"))

    def test_what_fails_is_said_and_asked_no_more(self) -> None:
        graph = self.graph
        graph.put(graph.ask(self.draft, "a"), "draft")
        self.assertEqual([n.name for n, _ in graph.wanting(["a"], "a")], ["months"])
        graph.put(graph.ask(self.months, "a"), NotBalancedError("no air; open it"))
        self.assertEqual(graph.state("months", "a").sentence, "no air; open it")
        self.assertEqual(list(graph.wanting(["a"], "a")), [])
        self.assertEqual(graph.value("draft", "a"), "draft")
        # Called off is no failure: it may be asked again.
        graph.put_keys({"a": ("two",)})
        graph.put(graph.ask(self.draft, "a"), "draft")
        graph.ask(self.months, "a")
        self.assertEqual(list(graph.wanting(["a"], "a")), [])
        graph.give_up("months", "a", for_good=False)
        self.assertEqual([n.name for n, _ in graph.wanting(["a"], "a")], ["months"])
        graph.ask(self.months, "a")
        graph.give_up("months", "a", for_good=True)
        self.assertEqual(list(graph.wanting(["a"], "a")), [])


class Failures(Base):
    def test_no_answer_is_a_sentence(self) -> None:
        document, results = self.start(InlineExecutor())
        trouble = NotBalancedError("design “x”: the bees would suffocate; open an entrance")
        with mock.patch("calveth.app.engine.nodes.assess_months", side_effect=trouble):
            self.thicken(document, 60)
        self.assertIsNone(results.monthly("polystyrene"))
        self.assertIn("open an entrance", results.error("polystyrene"))
        self.thicken(document, 70)
        self.assertEqual(results.error("polystyrene"), "")

    def test_a_fault_of_ours_is_logged_and_said(self) -> None:
        document, results = self.start(InlineExecutor())
        self.app.processEvents()
        results.current = "timber"
        with (
            self.assertLogs("calveth.app.results", "ERROR"),
            mock.patch(
                "calveth.app.engine.nodes.assess_months", side_effect=ZeroDivisionError("x")
            ),
        ):
            self.thicken(document, 60)
        self.app.processEvents()
        self.assertIn("could not be worked out", results.error("polystyrene"))


if __name__ == "__main__":
    unittest.main()

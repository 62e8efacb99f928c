"""Ids and words: everything the core may say has words, and all of them are used."""

from __future__ import annotations

import ast
import string
import unittest
from datetime import date, datetime
from pathlib import Path

from calveth.core.advice import findings as findings_module
from calveth.core.errors import DomainError
from calveth.core.hive.design import FACES
from calveth.core.message import Value, message
from calveth.core.nest.network import SURFACES
from calveth.texts import build_words
from calveth.texts.clearances import GAPS
from calveth.texts.criteria import CRITERIA
from calveth.texts.dates import read_date, read_moment
from calveth.texts.findings import SURFACE_WORDS, WORDS, message_text, written
from calveth.texts.units import INCH, METRIC

CORE = Path(findings_module.__file__).parents[1]


def said_in_core() -> dict[str, set[str]]:
    """Return the ids of messages the core makes, and the names of the values each is given."""
    found: dict[str, set[str]] = {}
    for path in CORE.rglob("*.py"):
        for call in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if not (isinstance(call, ast.Call) and isinstance(call.func, ast.Name)):
                continue
            if call.func.id != "message":
                continue
            names = {k.arg for k in call.keywords if k.arg is not None}
            for leaf in ast.walk(call.args[0]):
                if isinstance(leaf, ast.Constant) and isinstance(leaf.value, str):
                    found.setdefault(leaf.value, set()).update(names)
    return found


BUILT = build_words.WORDS
"""Words of a build: acts, work on edges, remarks."""
BY_PART = {
    "lower edge bevel",
    "upper edge bevel",
    "cut sheets",
    "cut foam",
    "cut mineral sheets",
    "cut metal",
    "order panes",
    "lay dry",
    "glue courses",
    "join floor",
    "join boxes",
    "cut fibre",
    "join trough",
    "join eke",
    "join lid",
    "join quilt",
    "join cover",
    "medium boxes",
    "shallow boxes",
    "eight frames",
    "queen may pass",
    "divider in blocks",
}
"""Ids of them that are chosen by part or material, not written in the call."""
IN_REMEDIES = {
    "thicker layer",
    "foam under a board",
    "lay a quilt",
    "drill a hole high",
    "shut the opening above",
    "narrow to half",
    "twice as wide",
    "seal the joints",
    "insulation past the rim",
    "insulation past the floor",
}


class Words(unittest.TestCase):
    def test_every_id_has_words_and_every_word_an_id(self) -> None:
        ids = set(said_in_core())
        # Ids that are chosen from a variable, not written in the call.
        chosen = {
            "lid drips",
            "lid runs",
            "lid freezes",
            "walls let most heat through",
            "face lets most heat through",
        }
        self.assertFalse(set(WORDS) & set(BUILT))
        self.assertEqual(ids - set(WORDS) - set(BUILT), {"message"} & ids)
        self.assertEqual(set(WORDS) - ids, chosen)
        self.assertEqual(set(BUILT) - ids, BY_PART)

    def test_every_placeholder_is_given(self) -> None:
        for name, given in said_in_core().items():
            words = WORDS.get(name, "") or BUILT.get(name, "")
            wanted = {f for _, f, _, _ in string.Formatter().parse(words) if f}
            if given:
                self.assertLessEqual(wanted, given | {"month", "surface", "dew", "water"}, name)

    def test_sentences_end_and_reasons_do_not(self) -> None:
        for name, words in WORDS.items():
            with self.subTest(id=name):
                if name in IN_REMEDIES:  # an instruction, whose effect follows it
                    self.assertRegex(words, r"^[A-Z].*[^.]$")
                    continue
                sentence = words[0].isupper() and not words.startswith(("EN ISO", "CO2"))
                self.assertEqual(words.endswith("."), sentence)

    def test_criteria_and_gaps_have_words(self) -> None:
        wanted = {
            "schools.py": ({"_yes", "_most", "_least"}, CRITERIA),
            "clearances.py": ({"bee_space", "Clearance"}, GAPS),
        }
        for name, (makers, words) in wanted.items():
            found: set[str] = set()
            for path in CORE.rglob(name):
                for call in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                    if isinstance(call, ast.Call) and getattr(call.func, "id", "") in makers:
                        ids = [*call.args[:1], *(k.value for k in call.keywords if k.arg == "id")]
                        found |= {str(i.value) for i in ids if isinstance(i, ast.Constant)}
            # An opening a rim comes down over goes by its own name.
            self.assertEqual(found - {"rim"}, set(words), name)

    def test_surfaces_and_faces_have_words(self) -> None:
        self.assertLessEqual({*SURFACES, *FACES}, set(SURFACE_WORDS))

    def test_values_in_both_units(self) -> None:
        for value, metric, inch in (
            (Value(20.0, "temperature"), "20.0 °C", "68.0 °F"),
            (Value(0.123, "share"), "12%", "12%"),
            (Value(0.0123, "share", 1), "1.2%", "1.2%"),
            (Value(0, "month"), "January", "January"),
            (Value(100.0, "flow"), "100 L", "3.5 ft³"),
            (Value(30.0, "water per area", 0, 1), "30 g/m²", "1.1 oz/m²"),
            (Value(("lid rim", "floor"), "surfaces"), "lid rim and floor", "lid rim and floor"),
            (Value(("a", "b", "c"), "names"), "a, b and c", "a, b and c"),
            (Value("walls", "surface"), "walls", "walls"),
        ):
            with self.subTest(value=value):
                self.assertEqual((written(value, METRIC), written(value, INCH)), (metric, inch))

    def test_a_name_with_braces_is_no_placeholder(self) -> None:
        name = message("draught", opening=Value("{month}", "name"), speed=Value(0.3, "speed", 2))
        self.assertIn("{month}", message_text(name))
        self.assertEqual(message_text(None), "")


class TypedDates(unittest.TestCase):
    def test_as_people_write_them(self) -> None:
        third = date(2026, 2, 3)
        for text in (
            "2026-02-03",
            "2026/2/3",
            "3.2.2026",
            "3. 2. 2026",
            "03.02.26",
            "3 Feb 2026",
            "3 February 2026",
            "February 3, 2026",
            "3rd of February 2026",
        ):
            self.assertEqual(read_date(text, "day"), third, text)
        self.assertEqual(read_date("13/2/2026", "day"), date(2026, 2, 13))
        self.assertEqual(read_date("2/13/2026", "day"), date(2026, 2, 13))
        self.assertEqual(read_date("2/2/2026", "day"), date(2026, 2, 2))
        for text, why in (
            ("2/3/2026", "3 February"),
            ("30.2.2026", "no day of the calendar"),
            ("soon", "is no date"),
            ("", "nothing is no date"),
            ("3 Foo 2026", "calendar"),
        ):
            with self.assertRaisesRegex(DomainError, why):
                read_date(text, "day")

    def test_with_their_hour(self) -> None:
        for text, hour in (
            ("2026-02-03 14:30", (14, 30)),
            ("2026-02-03T14:30:00", (14, 30)),
            ("3.2.2026 2:30 pm", (14, 30)),
            ("3 Feb 2026, 12 am", (0, 0)),
            ("3 Feb 2026 at 9:05", (9, 5)),
            ("2026-02-03", (12, 0)),
        ):
            self.assertEqual(read_moment(text, "hour"), datetime(2026, 2, 3, *hour), text)
        for text in ("2026-02-03 25:00", "2026-02-03 13 pm", "2026-02-03 9:75"):
            with self.assertRaisesRegex(DomainError, "no hour of a day"):
                read_moment(text, "hour")


if __name__ == "__main__":
    unittest.main()

"""``calveth build`` and ``calveth stock`` as a user calls them."""

from __future__ import annotations

import json

from calveth.catalogue.examples import workshop_project
from calveth.store.project_file import ProjectFile, load_project
from tests.cli.test_commands import Base


class Build(Base):
    def test_text(self) -> None:
        code, out, _ = self.call("build", self.file, "--design", "composite")
        self.assertEqual(code, 0)
        for words in (
            "54 pieces",
            "522 x 244 x 12",
            "boards",
            "lifts",
            "standing",
            "steps",
            "! Cut foam cold",
            "bought",
        ):
            self.assertIn(words, out)
        _, inch, _ = self.call("build", self.file, "--design", "composite", "--inch")
        self.assertIn("sizes in in", inch)
        self.assertIn("20 9/16 x 9 19/32", inch)

    def test_json_has_units_in_its_keys(self) -> None:
        code, out, _ = self.call("build", self.file, "--design", "timber", "--format", "json")
        self.assertEqual(code, 0)
        record = json.loads(out)
        self.assertEqual(record["design"], "timber")
        self.assertAlmostEqual(record["pieces"][4]["length_m"], 0.438)
        self.assertEqual(record["balance"][1]["state"], "february")
        self.assertEqual(record["problems"], [])

    def test_csv_and_files(self) -> None:
        _, out, _ = self.call("build", self.file, "--design", "cover", "--format", "csv")
        self.assertEqual(out.splitlines()[0].split(",")[:3], ["number", "count", "part"])
        target = self.folder / "cover.dxf"
        code, out, _ = self.call("build", self.file, "--design", "cover", "-o", target)
        self.assertEqual((code, out), (0, "wrote cover.dxf\n"))
        self.assertTrue(target.is_file())
        self.assertIn("must end in", self.refused("build", self.file, "-o", "x.doc"))
        self.assertIn("folder", self.refused("build", self.file, "-o", "none/x.pdf"))
        self.assertIn("is not in the project", self.refused("build", self.file, "--design", "x"))

    def test_from_one_version_to_the_next(self) -> None:
        _, out, _ = self.call("build", self.file, "--design", "timber", "--from", "plain-boards")
        self.assertIn("To make “Heavy timber box” from “Plain 19 mm boards”", out)
        self.assertIn("make 4 x 467 x 244 x 32", out)

    def test_the_workshop_ships(self) -> None:
        target = self.folder / "w.calveth"
        self.call("demo", "--workshop", "-o", target)
        self.assertEqual(load_project(target), workshop_project())
        for design in workshop_project().designs:
            code, out, _ = self.call("build", target, "--design", design.id)
            self.assertEqual(code, 0)
            self.assertNotIn("\n! ", out)


class Stock(Base):
    def test_lists(self) -> None:
        _, out, _ = self.call("stock")
        self.assertIn("planed board 19 x 145", out)
        _, inch, _ = self.call("stock", "--shipped", "inch", "--format", "json")
        self.assertEqual(json.loads(inch)["currency"], "$")
        self.assertIn("choose metric or inch", self.refused("stock", "--shipped", "yard"))

    def test_out_edited_and_in_again(self) -> None:
        _, out, _ = self.call("stock", self.file, "--format", "csv")
        lines = out.splitlines()
        own = self.folder / "own.csv"
        own.write_text("\n".join([lines[0], "own,board,wood,2.5,0.2,0.019,9.5"]), encoding="utf-8")
        code, out, _ = self.call("stock", self.file, "--read", own, "--into")
        self.assertEqual(code, 0)
        items = load_project(self.file).workshop.items
        self.assertEqual([(i.name, i.length_m, i.price) for i in items], [("own", 2.5, 9.5)])
        code, out, _ = self.call("build", self.file, "--design", "plain-boards")
        self.assertIn("2500", out)

    def test_refusals(self) -> None:
        bad = self.folder / "bad.csv"
        for text, words in (
            ("a,b\n1,2\n", "has no column name"),
            ("name,kind,fits,length_m,width_m\nx,board,wood,long,0.1\n", "line 2: length_m"),
            ("name,kind,fits,length_m,width_m\nx,plank,wood,2,0.1\n", "line 2"),
            ("name,kind,fits,length_m,width_m\nx,board,wood,2,0\n", "width"),
            ("name,kind,fits,length_m,width_m\n", "holds no sizes"),
        ):
            bad.write_text(text, encoding="utf-8")
            with self.subTest(words=words):
                self.assertIn(words, self.refused("stock", "--read", bad))
        self.assertIn("is no .calveth project", self.refused("stock", "--into"))
        before = load_project(self.file)
        self.refused("stock", self.file, "--read", bad, "--into")
        with ProjectFile.open(self.file) as file:
            self.assertEqual(file.read(), before)

"""Commands that print tables or write sheets: places, materials, sweep, findings, room, report."""

from __future__ import annotations

import csv
import io
import json
import re
import unittest
from dataclasses import replace
from pathlib import Path

from openpyxl import load_workbook
from pypdf import PdfReader

from calveth.catalogue.library import shipped_frames, shipped_make_ups, shipped_places
from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import WinterRoom
from calveth.store.project_file import ProjectFile, load_project
from tests.cli.test_commands import SMALL, Base


class Tables(Base):
    def rows(self, *arguments: object) -> list[dict[str, str]]:
        code, out, err = self.call(*arguments, "--format", "csv")
        self.assertEqual((code, err), (0, ""))
        return list(csv.DictReader(io.StringIO(out)))

    def json(self, *arguments: object) -> list[dict[str, object]]:
        code, out, err = self.call(*arguments, "--format", "json")
        self.assertEqual((code, err), (0, ""))
        return json.loads(out)  # type: ignore[no-any-return]


class Places(Tables):
    def test_all_of_them_in_three_formats(self) -> None:
        _, out, _ = self.call("places")
        self.assertEqual(len(out.strip().splitlines()), len(shipped_places()))
        self.assertEqual(len(self.rows("places")), len(shipped_places()))
        found = self.json("places")
        self.assertEqual([r["id"] for r in found], [p.id for p in shipped_places()])
        self.assertTrue(any(float(str(r["latitude_deg"])) < 0 for r in found))

    def test_the_months_of_one(self) -> None:
        rows = self.rows("places", "norrvatn")
        self.assertEqual([r["month"] for r in rows], list(MONTH_NAMES))
        place = next(p.place for p in shipped_places() if p.id == "norrvatn")
        for row, month in zip(rows, place.months, strict=True):
            with self.subTest(month=row["month"]):
                self.assertAlmostEqual(
                    float(row["temperature_degc"]), month.temperature_degc, places=1
                )

    def test_no_such_place(self) -> None:
        self.assertIn("choose one of", self.refused("places", "atlantis"))


class Materials(Tables):
    def test_the_catalogue(self) -> None:
        rows = self.rows("materials")
        self.assertEqual([r["id"] for r in rows], [m.id for m in shipped_materials()])
        self.assertGreaterEqual(len(rows), 60)
        self.assertTrue(all(r["source"] and r["certainty"] for r in rows))

    def test_found_by_a_word(self) -> None:
        found = [r["id"] for r in self.rows("materials", "--find", "aircrete")]
        self.assertGreaterEqual(len(found), 3)
        self.assertIn("no material", self.refused("materials", "--find", "unobtainium"))

    def test_those_of_a_project(self) -> None:
        rows = self.rows("materials", self.file)
        self.assertEqual({r["id"] for r in rows}, {m.id for m in demo_project().materials})


class Sweep(Tables):
    def test_every_stock_size(self) -> None:
        rows = self.rows("sweep", self.file, "--design", "timber", "--face", "lid")
        wood = demo_project().material_table()["softwood"]
        sizes = [float(r["thickness_m"]) for r in rows]
        self.assertEqual(sizes, sorted(round(v, 4) for v in wood.stock_m))
        loss = [float(r["shell_conductance_w_k"]) for r in rows]
        self.assertEqual(loss, sorted(loss, reverse=True))

    def test_chosen_sizes_in_their_units(self) -> None:
        rows = self.json(
            "sweep", self.file, "--design", "Heavy timber box", "--sizes", "19mm,1in,5cm"
        )
        self.assertEqual([r["thickness_m"] for r in rows], [0.019, 0.0254, 0.05])
        _, out, _ = self.call("sweep", self.file, "--design", "timber", "--sizes", "19mm,1in")
        self.assertIn("25.4", out)

    def test_refusals(self) -> None:
        for arguments, word in (
            (("--design", "timber", "--layer", "7"), "layer"),
            (("--design", "timber", "--sizes", "thick"), "not a number"),
            (("--design", "timber", "--sizes=-3mm,10mm"), "thickness"),
            (("--design", "nobody"), "design"),
        ):
            with self.subTest(arguments=arguments):
                self.assertIn(word, self.refused("sweep", self.file, *arguments))


class Findings(Tables):
    def test_cause_and_help_and_schools(self) -> None:
        _, out, _ = self.call("findings", self.file, "--design", "timber", "--month", "1")
        for word in ("Heavy timber box", "because the lid", "helps:", "breathing top"):
            self.assertIn(word, out)

    def test_formats(self) -> None:
        rows = self.rows("findings", self.small)
        self.assertEqual({r["design"] for r in rows}, {d.id for d in SMALL.designs})
        self.assertLessEqual({r["tone"] for r in rows}, {"good", "note", "bad"})
        found = self.json("findings", self.small, "--design", "timber")
        self.assertEqual(len(found), 1)
        self.assertIn("schools", found[0])

    def test_refusals(self) -> None:
        self.assertIn("month", self.refused("findings", self.file, "--month", "13"))


class Room(Tables):
    def test_none_is_set(self) -> None:
        self.assertIn("set one under Place", self.refused("room", self.file))

    def test_forty_hives(self) -> None:
        path = self.folder / "room.calveth"
        project = demo_project()
        room = WinterRoom(hives=40)
        ProjectFile.create(path, replace(project, place=replace(project.place, room=room))).close()
        rows = self.rows("room", path, "--design", "timber")
        self.assertEqual(
            [r["month"] for r in rows], ["January", "February", "March", "November", "December"]
        )
        # Carbon of the honey in the air of a steady room: m³/h = kg CO2 a day / 24 / ρ / Δx
        # (1.98 kg/m³ at 0 °C, 101.3 kPa: from memory; the room stands at 5 °C and 420 m).
        first = rows[0]
        density = 1.98 * 273.15 / 278.15 * 96.4 / 101.325
        hand = float(first["co2_kg_day"]) / 24 / density / (0.005 - 0.00042)
        self.assertAlmostEqual(float(first["for_co2_m3_h"]) / hand, 1.0, delta=0.03)
        self.assertEqual(len(self.json("room", path)), 5)
        _, out, _ = self.call("room", path)
        self.assertIn("m³/h for CO2", out)


class RoomHours(Tables):
    def test_a_winter_in_three_formats(self) -> None:
        months = self.json("room-hours", self.file, "--hives", "40", "--loss", "8")
        self.assertEqual([m["month"] for m in months], [11, 12, 1, 2, 3])
        by_hour = self.rows("room-hours", self.file, "--loss", "8", "--months", "1")
        self.assertEqual(len(by_hour), 31 * 24)
        january = [float(row["degc"]) for row in by_hour]
        self.assertAlmostEqual(
            sum(january) / len(january), float(str(months[2]["degc_mean"])), delta=1.0
        )
        _, out, _ = self.call("room-hours", self.file, "--loss", "8", "--fan-most", "30")
        self.assertIn("November", out)
        self.assertIn("bees grow restless", out)

    def test_more_air_leaves_less_co2(self) -> None:
        little, much = (
            self.json("room-hours", self.file, "--months", "1", "--fan-least", m, "--fan-most", m)
            for m in ("30", "300")
        )
        self.assertGreater(float(str(little[0]["co2_most"])), float(str(much[0]["co2_most"])))

    def test_refusals(self) -> None:
        self.assertIn("whole number", self.refused("room-hours", self.file, "--hives", "3.7"))
        self.assertIn("from 1 to 12", self.refused("room-hours", self.file, "--months", "13"))
        self.assertIn("under the least", self.refused("room-hours", self.file, "--fan-most", "1"))


class Conduct(Tables):
    def test_solved_beside_the_estimate(self) -> None:
        _, out, _ = self.call("conduct", self.file, "--design", "plain-boards")
        for word in ("W/K solved", "W/K estimated", "floor in the corner", "finer grid"):
            self.assertIn(word, out)
        solved, estimated, off = re.findall(
            r"([0-9.]+) W/K solved, ([0-9.]+) W/K estimated \(([+-][0-9.]+) %\)", out
        )[0]
        self.assertAlmostEqual(float(off), 100 * (float(estimated) / float(solved) - 1), delta=0.15)
        rows = self.rows("conduct", self.file, "--design", "plain-boards")
        factors = [float(r["temperature_factor"]) for r in rows]
        self.assertEqual(factors, sorted(factors))
        self.assertTrue(all(0 < f < 1 for f in factors))

    def test_spots_at_a_condition_and_joints(self) -> None:
        """The dew-point margin of a spot is its temperature less the dew point of its air."""
        found = [
            json.loads(
                self.call(
                    "conduct",
                    self.file,
                    "--design",
                    "composite",
                    "--outside-temp",
                    degc,
                    "--outside-rh",
                    "90%",
                    "--format",
                    "json",
                )[1]
            )
            for degc in ("-15", "5")
        ]
        cold, mild = found
        self.assertEqual((cold["outside_degc"], mild["outside_degc"]), (-15.0, 5.0))
        for one, two in zip(cold["spots"], mild["spots"], strict=True):
            self.assertEqual(one["spot"], two["spot"])
            self.assertLess(one["temperature_degc"], two["temperature_degc"] - 10)
        added = sum(j["whole_w_k"] for j in cold["joints"]) + cold["faces_w_k"] + cold["rest_w_k"]
        self.assertAlmostEqual(added, cold["conductance_w_k"], places=3)
        out = sum(p["to_outside_w_k"] for p in cold["parts"])
        self.assertAlmostEqual(out, cold["conductance_w_k"], places=3)
        said = self.refused("conduct", self.file, "--design", "timber", "--outside-temp", "warm")
        self.assertIn("--outside-temp", said)

    def test_a_tree_is_solved(self) -> None:
        code, out, _ = self.call(
            "conduct", self.file, "--design", "hollow-tree", "--format", "json"
        )
        self.assertEqual(code, 0)
        solved = json.loads(out)
        inside = sum(p["from_inside_w_k"] for p in solved["parts"])
        self.assertAlmostEqual(inside, solved["conductance_w_k"], delta=0.002)


class Report(Base):
    def test_pdf(self) -> None:
        path = self.folder / "r.pdf"
        code, out, _ = self.call(
            "report", self.small, "-o", path, "--month", "2", "--inch", "--tables"
        )
        self.assertEqual(code, 0)
        pages = [" ".join(p.extract_text().split()) for p in PdfReader(path).pages]
        self.assertIn(f"pages {len(pages)}", out)
        text = " ".join(pages)
        self.assertIn("February, side by side", text)
        self.assertIn("The year by the hour", text)
        self.assertIn("Leave ", text)
        self.assertIn("°F", text)
        self.assertNotIn("°C", text)
        # Every design has a sheet of its own, with its name at the head of it.
        for design in SMALL.designs:
            with self.subTest(design=design.name):
                self.assertTrue(any(p.startswith(design.name) for p in pages))

    def test_spreadsheet(self) -> None:
        path = self.folder / "r.xlsx"
        code, out, _ = self.call("report", self.small, "-o", path, "--format", "json")
        self.assertEqual(code, 0)
        self.assertEqual(json.loads(out)["sheets"], load_workbook(path).sheetnames)

    def test_refusals(self) -> None:
        for name, word in (
            ("r.doc", "end in"),
            ("no/r.pdf", "does not exist"),
            ("no/r.xlsx", "does not exist"),
        ):
            with self.subTest(name=name):
                self.assertIn(word, self.refused("report", self.file, "-o", self.folder / name))
        self.assertEqual(
            sorted(p.name for p in self.folder.iterdir()), ["demo.calveth", "small.calveth"]
        )


class SectionToScale(Base):
    def test_it_is_written_and_refused(self) -> None:
        path = self.folder / "s.svg"
        code, out, _ = self.call(
            "section", self.file, "--design", "timber", "--scale", "1", "-o", path
        )
        self.assertEqual(code, 0)
        self.assertIn("1:1", out)
        self.assertIn("<svg", path.read_text(encoding="utf-8"))
        for arguments, word in (
            (("--scale", "0"), "--scale"),
            (("--scale", "nan"), "--scale"),
            (("--month", "13"), "month"),
        ):
            said = self.refused("section", self.file, "--design", "timber", "-o", path, *arguments)
            self.assertIn(word, said)
        self.assertIn(
            "end in",
            self.refused("section", self.file, "--design", "timber", "-o", self.folder / "s.png"),
        )


class New(Base):
    def new(self, name: str, *arguments: str) -> Path:
        path = self.folder / name
        code, _, err = self.call("new", path, *arguments)
        self.assertEqual((code, err), (0, ""))
        return path

    def test_place_frames_and_construction(self) -> None:
        path = self.new(
            "t.calveth",
            "--place",
            "whare-downs",
            "--frames",
            "trough-20",
            "--make-up",
            "block-trough",
            "--colony",
            "strong",
        )
        project = load_project(path)
        self.assertLess(project.place.latitude_deg, 0)
        self.assertEqual(project.designs[0].id, "block-trough")
        normal = load_project(self.new("n.calveth", "--place", "whare-downs"))
        self.assertGreater(max(project.colony.mass_kg), max(normal.colony.mass_kg))
        # South of the equator the bees are fewest in July, not in January.
        mass = project.colony.mass_kg
        self.assertLess(mass[6], mass[0])

    def test_every_make_up_and_cavity_is_named_in_the_help(self) -> None:
        _, out, _ = self.call("new", "--help")
        named = "".join(out.split())
        for ids in ([f.id for f in shipped_frames()], [m.id for m in shipped_make_ups()]):
            for key in ids:
                with self.subTest(key=key):
                    self.assertIn(key, named)

    def test_refusals(self) -> None:
        self.assertIn(
            "atlantis", self.refused("new", self.folder / "x.calveth", "--place", "atlantis")
        )
        self.assertIn("exists", self.refused("new", self.file))


if __name__ == "__main__":
    unittest.main()

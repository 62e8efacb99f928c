"""Logs in the window: a winter from the file of a logger to version two, and what is refused."""

from __future__ import annotations

from dataclasses import replace
from importlib.resources import files
from pathlib import Path
from unittest import mock

import numpy as np
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QImage, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog

from calveth.app.commands import logs as log_commands
from calveth.app.commands.photos import MOST_PX, photo_of
from calveth.app.dialogs.empty_hive_dialog import EmptyHiveDialog
from calveth.app.dialogs.log_dialog import LogDialog
from calveth.app.document import Document
from calveth.app.main_window import MainWindow
from calveth.app.widgets.log_plot import Curve, LogPlot, Strip, sound_samples
from calveth.catalogue.apiary import apiary_project
from calveth.core.diary import calibrate as calibrate_module
from calveth.core.diary.reduce import edges_of, reduced
from calveth.core.diary.season import clock_h, utc_hours
from calveth.core.diary.stand_in import stand_in
from calveth.core.edits_diary import set_diary
from calveth.core.project import Project
from calveth.core.records.diary import Diary
from calveth.store.errors import FileError
from calveth.store.log_csv import read_log
from calveth.store.project_file import load_project
from calveth.texts.design_changes import design_changes, version_sentences
from calveth.texts.time_scale import time_ticks
from tests.app.base import application
from tests.app.test_year import YearTest, click

BOATHOUSE = Path(str(files("calveth.catalogue").joinpath("boathouse.csv")))


def boathouse() -> Project:
    """Return the boards of the apiary with their inspections, before any log was read."""
    apiary = apiary_project()
    diary = Diary(hives=(apiary.diary.hive("hive-2"),), inspections=apiary.diary.of_hive("hive-2"))
    return replace(apiary, designs=(apiary.design("plain-boards"),), diary=diary)


class LogTest(YearTest):
    def setUp(self) -> None:
        super().setUp()
        for name, value in (("_STARTS", (0.0,)), ("_MOST_RUNS", 3)):
            patch = mock.patch.object(calibrate_module, name, value)
            patch.start()
            self.addCleanup(patch.stop)

    def at_logs(self, project: Project | None = None) -> MainWindow:
        w = self.window(project or boathouse(), on_disk=True)
        w.go_to("diary")
        w.diary.choose_hive("hive-2")
        w.diary.show_page("logs")
        self.settle(w)
        return w

    def read(self, w: MainWindow, path: Path, *, follow: bool = False) -> LogDialog:
        """Read a file into the diary as a user would."""
        seen: list[LogDialog] = []

        def accept(dialog: QDialog) -> None:
            assert isinstance(dialog, LogDialog)
            seen.append(dialog)
            self.settle(w)
            dialog.watch.setChecked(follow)
            dialog.accept()

        self.prompts.paths = [path]
        self.prompts.dialogs = [accept]
        click(w.diary.logs.read)
        self.settle(w)
        return seen[0]


class LinesClicked(LogTest):
    def test_names_and_times_are_taken_from_where_they_are_clicked(self) -> None:
        """A device writes a line of its own, reads at one time and sends at another."""
        path = self.folder / "log.csv"
        path.write_text(
            "device;7;3;1\nsent;read;lid °C;x\n"
            "2026-01-01 01:00;2026-02-03 14:30;21;1\n2026-01-01 02:00;2026-02-03 14:40;22;1\n",
            encoding="utf-8",
        )
        w = self.at_logs()

        def act(dialog: QDialog) -> None:
            assert isinstance(dialog, LogDialog)
            self.settle(w)
            rows = dialog.rows
            self.assertEqual(rows.rowCount(), 4)
            names, times = rows.verticalHeaderItem(1), rows.horizontalHeaderItem(0)
            assert names is not None and times is not None
            self.assertEqual((names.text(), times.text()), ("names", "time"))
            dialog.take_time(1)
            self.settle(w)
            times = rows.horizontalHeaderItem(1)
            assert times is not None
            self.assertEqual(times.text(), "time")
            # Two whole times are no date and clock; a second click lets the wrong one go.
            dialog.take_time(0)
            self.settle(w)
            self.assertIsNone(dialog.log)
            dialog.take_time(0)
            self.settle(w)
            assert dialog.log is not None
            first = dialog.log.columns[0].series.minutes[0]
            self.assertEqual(first, np.datetime64("2026-02-03T13:30", "m").astype(int))
            # A line that holds no names: the reason is said, and the lines stay to be clicked.
            dialog.take_header(3)
            self.settle(w)
            self.assertIsNone(dialog.log)
            self.assertGreater(len(dialog.answer.text()), 20)
            self.assertEqual(rows.rowCount(), 4)
            dialog.take_header(1)
            self.settle(w)
            self.assertIsNotNone(dialog.log)
            dialog.reject()

        self.prompts.paths = [path]
        self.prompts.dialogs = [act]
        click(w.diary.logs.read)
        self.settle(w)


class AWinterLogged(LogTest):
    def test_from_a_loggers_file_to_version_two(self) -> None:
        w = self.at_logs()
        page = w.diary.logs
        self.assertIn("No log yet", page.state.text())
        dialog = self.read(w, BOATHOUSE)
        self.assertIn("day first", dialog.answer.text())
        self.assertEqual(
            [at for _, at in dialog.taken()],
            ["under the lid", "under the lid", "under the lid", "scale", "outside"],
        )
        self.assertEqual(len(w.document.project.diary.logs), 5)
        self.assertEqual(
            [s.title.split(",")[0] for s in page.plot.strips],
            ["Temperature", "Humidity", "CO2", "Weight"],
        )
        # The season came by itself: expected beside measured, close to it in the logged weather.
        year = page.year()
        assert year is not None
        self.assertEqual(len(year.alike), 2)
        self.assertEqual(len(page.plot.strips[0].bands), 1)
        curves = {c.name: c for c in page.plot.strips[0].curves}
        at = np.searchsorted(curves["expected"].minutes, curves["under the lid"].minutes)
        at = np.clip(at, 0, curves["expected"].minutes.size - 1)
        gap = curves["under the lid"].values - curves["expected"].values[at]
        self.assertLess(float(np.median(np.abs(gap))), 1.0)
        self.assertIn("6 faults", page.list.item(0).text())
        self.assertEqual(load_project(self.folder / "working.calveth"), w.document.project)
        # What was expected at an inspection is that of this winter.
        w.diary.show_page("look")
        w.diary.choose_inspection(
            next(i.id for i in w.document.project.diary.inspections if i.at[:7] == "2025-02")
        )
        self.settle(w)
        self.assertIn("weather of that winter", w.diary.answer.text())
        # Why, and what the logs tell.
        w.diary.show_page("why")
        click(w.diary.why.button)
        self.settle(w)
        why = w.diary.why
        assert why.explained is not None and why.calibration is not None
        self.assertGreater(len(why.answer.text()), 20)
        self.assertIn("3168 hours", why.state.text())
        self.assertGreater(why.calibration.nights, 400)
        why.taken_over.emit("plain-boards", {"leakage": 1.5}, "Boathouse, winter 2024")
        self.settle(w)
        factors = w.document.project.design("plain-boards").factors
        assert factors is not None
        self.assertEqual(factors.leakage, 1.5)
        self.assertIn("Boathouse, winter 2024", why.kept.text())
        self.assertIn("before the last change", why.state.text())
        w.document.undo_stack.undo()
        self.assertIsNone(w.document.project.design("plain-boards").factors)
        # And the next version, whose differences are told.
        w.diary.show_page("look")
        click(w.diary.version)
        self.settle(w)
        new = w.document.project.designs[-1]
        self.assertEqual(new.of, "plain-boards")
        # What helps in the month it was seen, and how to make it from what stands.
        self.assertEqual((w.view.month, w.pages.currentIndex()), (1, 1))
        self.assertTrue(w.shell.says.isVisible())
        w.shell.cutaway.thickness_dragged.emit("walls", 0, 0.03)
        new = w.document.project.designs[-1]
        said = " ".join(version_sentences(w.document.project, new))
        self.assertIn("after Plain 19 mm boards: walls: ", said)
        self.assertIn("30 mm instead of 19 mm", said)
        w.go_to("build")
        w.build.show_list("change")
        self.settle(w)
        self.assertEqual(w.build.before.currentData(), "plain-boards")

    def test_a_log_leaves_and_undo_brings_it_back(self) -> None:
        w = self.at_logs()
        self.read(w, BOATHOUSE)
        click(w.diary.logs.drop)
        self.assertEqual(len(w.document.project.diary.logs), 4)
        self.assertEqual(load_project(self.folder / "working.calveth"), w.document.project)
        w.document.undo_stack.undo()
        self.assertEqual(len(w.document.project.diary.logs), 5)
        self.assertEqual(load_project(self.folder / "working.calveth"), w.document.project)

    def test_the_hand_is_that_of_the_year(self) -> None:
        w = self.at_logs()
        self.read(w, BOATHOUSE)
        plot = w.diary.logs.plot
        plot.setFocus()
        QTest.mouseClick(
            plot,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
            QPoint(plot.width() // 2, 60),
        )
        place = w.document.project.place
        utc = int(utc_hours(place, 2024)[w.view.hour])
        assert plot.hand is not None
        self.assertEqual((utc + clock_h(place)) % 24, plot.hand % 1440 // 60)
        before = w.view.hour
        QTest.keyClick(plot, Qt.Key.Key_Right)
        self.assertEqual(w.view.hour, (before + 1) % 8760)
        QTest.keyClick(plot, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(w.view.hour, (before - 23) % 8760)
        w.view.set_hour(40)
        self.assertEqual(plot.hand // 60 % 24, 40 % 24)

    def test_a_file_that_grows_is_read_again(self) -> None:
        w = self.at_logs()
        path = self.folder / "grows.csv"
        lines = BOATHOUSE.read_text(encoding="utf-8").splitlines()
        path.write_text("\n".join(lines[:2000]) + "\n", encoding="utf-8")
        self.read(w, path, follow=True)
        before = w.document.project.diary.logs[0].samples
        path.write_text("\n".join(lines) + "\n", encoding="utf-8")
        followers = w.findChild(log_commands.Followers)
        assert isinstance(followers, log_commands.Followers)
        # The watcher tells in its own time; what it leads to is asked for here.
        followers._changed(str(path))
        followers._read()
        self.settle(w)
        self.assertEqual(w.document.project.diary.logs[0].samples, before + len(lines) - 2000)
        self.assertIn("has grown", w.statusBar().currentMessage())
        path.write_text("nothing\n", encoding="utf-8")
        followers._changed(str(path))
        followers._read()
        self.settle(w)
        self.assertIn("less than three lines", w.statusBar().currentMessage())

    def test_files_that_grow_wait_for_each_other_and_for_nobody_elses_project(self) -> None:
        w = self.at_logs()
        lines = BOATHOUSE.read_text(encoding="utf-8").splitlines()
        paths = [self.folder / f"grows-{k}.csv" for k in range(2)]
        for path in paths:
            path.write_text("\n".join(lines[:1500]) + "\n", encoding="utf-8")
            self.read(w, path, follow=True)
        followers = w.findChild(log_commands.Followers)
        assert isinstance(followers, log_commands.Followers)
        # The watcher and the clock tell in their own time; what they lead to is asked for here.
        followers._watcher.blockSignals(True)
        followers._timer.setInterval(10**7)
        for k, path in enumerate(paths):
            path.write_text("\n".join(lines[: 1600 + 100 * k]) + "\n", encoding="utf-8")
            followers._changed(str(path))
        followers._read()
        followers._read()  # the first is at work: nothing happens
        self.assertEqual(list(followers._due), [str(paths[1])])
        self.settle(w)
        followers._read()
        self.settle(w)
        self.assertEqual(followers._due, {})
        self.assertIn("grows-1.csv has grown", w.statusBar().currentMessage())
        w.adopt(Document(boathouse()))
        followers._changed(str(paths[0]))
        followers._read()
        self.settle(w)
        self.assertEqual(w.document.project.diary.logs, ())

    def test_a_look_noted_while_a_file_is_read_is_kept(self) -> None:
        w = self.at_logs()
        noted = w.document.project.diary.inspections[0]
        log = read_log(BOATHOUSE, "UTC")
        named = next(c.name for c in log.columns if c.series.quantity == "weight")
        how = log_commands.Followed(
            path=BOATHOUSE,
            hive="hive-2",
            zone="UTC",
            order=None,
            layout=log.layout,
            columns=((named, "scale"),),
        )
        log_commands.bring_in(w.context, how, lambda: log, "read a log", "", lambda: None)
        w.document.edit(
            "a note", lambda p: set_diary(p, p.diary.with_inspection(replace(noted, text="later")))
        )
        self.settle(w)
        diary = w.document.project.diary
        self.assertEqual(len(diary.logs), 1)
        self.assertEqual(next(i for i in diary.inspections if i.id == noted.id).text, "later")

    def test_what_cannot_be_read_is_told_in_the_dialog(self) -> None:
        w = self.at_logs()
        path = self.folder / "odd.csv"
        rows = "".join(f"{d:02d}/03/2025 10:00,{d}\n" for d in range(1, 13))
        path.write_text(f"time,lid °C\n{rows}", encoding="utf-8")

        def look(dialog: QDialog) -> None:
            assert isinstance(dialog, LogDialog)
            ok = dialog.buttons.button(dialog.buttons.StandardButton.Ok)
            self.settle(w)
            self.assertIn("day first or month first", dialog.answer.text())
            self.assertFalse(ok.isEnabled())
            dialog.order.choose("day first")
            dialog.order.activated.emit(1)
            self.assertIn("Reading", dialog.answer.text())
            self.settle(w)
            self.assertTrue(ok.isEnabled())
            self.type_into(dialog.zone, "Moon/Base")
            self.settle(w)
            self.assertIn("time zone", dialog.answer.text())
            self.type_into(dialog.zone, "UTC")
            self.settle(w)
            self.assertEqual(dialog.taken(), [("lid °C", "under the lid")])
            dialog.reject()

        self.prompts.paths, self.prompts.dialogs = [path], [look]
        click(w.diary.logs.read)
        self.assertEqual(w.document.project.diary.logs, ())

    def test_a_log_from_before_the_hive_is_refused(self) -> None:
        w = self.at_logs()
        path = self.folder / "early.csv"
        rows = "".join(f"2019-03-{d:02d} 10:00,{d}\n" for d in range(1, 20))
        path.write_text(f"time,lid °C\n{rows}", encoding="utf-8")
        self.read(w, path)
        self.assertIn("is not while Boathouse stands", w.statusBar().currentMessage())
        self.assertEqual(w.document.project.diary.logs, ())


class Plot(LogTest):
    def plot(self) -> LogPlot:
        application()
        plot = LogPlot()
        plot.resize(900, 400)
        minutes = 28_000_000 + 10 * np.arange(20_000, dtype=np.int64)
        values = np.sin(np.arange(20_000) / 40.0)
        values[7000] = 9.0
        curve = Curve(name="a", minutes=minutes, values=values, color="accent")
        plot.show_strips([Strip(title="T", curves=(curve,))], [])
        plot.show()
        self.addCleanup(plot.deleteLater)
        return plot

    def test_keys_and_wheel_zoom_and_move(self) -> None:
        plot = self.plot()
        whole = plot.seen
        QTest.keyClick(plot, Qt.Key.Key_Plus)
        span = plot.seen[1] - plot.seen[0]
        self.assertLess(span, 0.7 * (whole[1] - whole[0]))
        QTest.keyClick(plot, Qt.Key.Key_PageDown)
        self.assertAlmostEqual(plot.seen[1] - plot.seen[0], span)
        place = QPointF(400.0, 100.0)
        wheel = QWheelEvent(
            place,
            place,
            QPoint(0, 120),
            QPoint(0, 120),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(plot, wheel)
        self.assertLess(plot.seen[1] - plot.seen[0], span)
        middle = plot.seen
        QTest.mousePress(plot, Qt.MouseButton.LeftButton, pos=QPoint(400, 100))
        QTest.mouseMove(plot, QPoint(450, 100))
        QTest.mouseRelease(plot, Qt.MouseButton.LeftButton, pos=QPoint(450, 100))
        self.assertLess(plot.seen[0], middle[0])
        self.assertIsNone(plot.hand)
        QTest.keyClick(plot, Qt.Key.Key_Home)
        self.assertEqual(plot.seen, whole)
        for _ in range(40):
            QTest.keyClick(plot, Qt.Key.Key_Plus)
        self.assertAlmostEqual(plot.seen[1] - plot.seen[0], 360.0)

    def test_no_extreme_is_lost_at_any_width(self) -> None:
        """Against the samples themselves: the least and the most of every column."""
        random = np.random.default_rng(2)
        minutes = np.cumsum(random.integers(5, 15, 30_000)).astype(np.int64)
        values = random.standard_normal(30_000)
        values[12_345] = np.nan
        for width in (7, 300, 1100):
            first, last = float(minutes[100]), float(minutes[-100])
            found = reduced(minutes, values, first, last, width, 1e9)
            inside = (found.column >= 0) & (found.column < width)
            for column, low, high in zip(
                found.column[inside][::13],
                found.low[inside][::13],
                found.high[inside][::13],
                strict=True,
            ):
                edges = edges_of(first, last, width)
                own = (minutes >= edges[column]) & (minutes < edges[column + 1])
                self.assertEqual((low, high), (np.nanmin(values[own]), np.nanmax(values[own])))

    def test_a_gap_breaks_the_line(self) -> None:
        minutes = np.concatenate([np.arange(100), np.arange(5000, 5100)]).astype(np.int64)
        found = reduced(minutes, np.ones(200), 0.0, 5100.0, 500, 60.0)
        self.assertEqual(set(found.piece.tolist()), {0, 1})
        self.assertEqual(reduced(minutes, np.full(200, np.nan), 0, 5100, 500, 60).low.size, 0)

    def test_time_is_marked_by_hours_days_and_months(self) -> None:
        day = 1440.0
        self.assertIn("06:00", [t for _, t in time_ticks(0, day, 600)])
        self.assertIn("5 Jan", [t for _, t in time_ticks(0, 14 * day, 600)])
        self.assertEqual(
            [t for _, t in time_ticks(0, 200 * day, 900)][:2], ["Feb 1970", "Mar 1970"]
        )
        self.assertLessEqual(len(time_ticks(0, 3650 * day, 900)), 12)

    def test_a_flagged_spike_sets_no_scale(self) -> None:
        plot = self.plot()
        curve = plot.strips[0].curves[0]
        spike = float(curve.minutes[7000])
        flagged = Strip(title="T", curves=(curve,), faults=((spike, spike),))
        plot.show_strips([flagged], [])
        minutes, values = sound_samples(curve, flagged.faults)
        self.assertEqual(minutes.size, curve.minutes.size - 1)
        self.assertLess(float(values.max()), 1.1)
        # Where all is flagged there is nothing better to go by.
        ends = ((float(curve.minutes[0]), float(curve.minutes[-1])),)
        self.assertEqual(sound_samples(curve, ends)[0].size, curve.minutes.size)


class PhotosAndTests(LogTest):
    def picture(self, name: str = "lid.png", wide: int = 4000) -> Path:
        image = QImage(wide, wide // 2, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.darkGreen)
        path = self.folder / name
        image.save(str(path))
        return path

    def test_a_photograph_comes_in_scaled_and_leaves(self) -> None:
        w = self.at_logs()
        w.diary.show_page("look")
        self.prompts.paths = [self.picture()]
        w.diary.form.photos.add.click()
        look = next(i for i in w.document.project.diary.inspections if i.photos)
        self.assertEqual(look.id, w.diary.inspection)
        back = QImage.fromData(look.photos[0].data)
        self.assertEqual((back.width(), back.height()), (MOST_PX, MOST_PX // 2))
        self.assertEqual(load_project(self.folder / "working.calveth"), w.document.project)
        thumb = w.diary.form.photos.thumbs[0]
        QTest.keyClick(thumb, Qt.Key.Key_Delete)
        self.assertFalse(any(i.photos for i in w.document.project.diary.inspections))

    def test_a_photograph_stands_as_the_camera_was_held(self) -> None:
        """Orientation 6 of EXIF 2.3: the first row is the right side, so it is turned upright."""
        wide = QImage(90, 40, QImage.Format.Format_RGB32)
        wide.fill(0xFFFFFF)
        for x in range(20):
            for y in range(40):
                wide.setPixel(x, y, 0x000000)
        path = self.folder / "held.jpg"
        wide.save(str(path))
        jpeg = path.read_bytes()
        tiff = b"II*\0" + (8).to_bytes(4, "little") + (1).to_bytes(2, "little")
        tiff += (0x112).to_bytes(2, "little") + (3).to_bytes(2, "little")
        tiff += (1).to_bytes(4, "little") + (6).to_bytes(4, "little") + bytes(4)
        exif = b"Exif\0\0" + tiff
        mark = b"\xff\xe1" + (len(exif) + 2).to_bytes(2, "big") + exif
        path.write_bytes(jpeg[:2] + mark + jpeg[2:])
        back = QImage.fromData(photo_of(path).data)
        self.assertEqual((back.width(), back.height()), (40, 90))
        # What was at the left is at the top.
        self.assertLess(back.pixelColor(20, 5).lightness(), 60)
        self.assertGreater(back.pixelColor(20, 80).lightness(), 200)

    def test_what_is_no_photograph_is_refused(self) -> None:
        path = self.folder / "false.jpg"
        path.write_bytes(b"this is no picture at all")
        drawn = self.folder / "drawing.jpg"
        drawn.write_text(
            '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">'
            '<image href="file:///etc/hostname" width="9" height="9"/></svg>',
            encoding="utf-8",
        )
        whole = self.picture("whole.jpg", 900)
        torn = self.folder / "torn.jpg"
        torn.write_bytes(whole.read_bytes()[:4000])
        photo_of(whole)
        for wrong in (path, self.folder / "missing.jpg", self.folder, drawn, torn):
            with self.assertRaises(FileError):
                photo_of(wrong)
        w = self.at_logs()
        w.diary.show_page("look")
        self.prompts.paths = [path]
        w.diary.form.photos.add.click()
        self.assertIn("no photograph", w.statusBar().currentMessage())

    def test_sheets_of_an_empty_hive_and_what_its_log_tells(self) -> None:
        made = stand_in(4, 1)
        hours = made.inside.minutes
        rows = [
            f"{np.datetime64(int(m), 'm')},{a:.2f},{b:.2f},12.0"
            for m, a, b in zip(hours, made.inside.values, made.outside.values, strict=True)
        ]
        path = self.folder / "heater.csv"
        path.write_text("time,in °C,out °C,lamp W\n" + "\n".join(rows) + "\n", encoding="utf-8")
        w = self.at_logs()

        def look(dialog: QDialog) -> None:
            assert isinstance(dialog, EmptyHiveDialog)
            self.assertIn("residual current", dialog.sheet.toPlainText())
            click(dialog.read)
            self.assertIn("The empty hive loses 1.", dialog.answer.text())
            self.assertIn("W/K through the shell", dialog.answer.text())
            dialog.kind.choose("decay")
            dialog.kind.activated.emit(1)
            self.assertIn("CO2 smothers", dialog.sheet.toPlainText())
            click(dialog.read)
            self.assertIn("column of ppm", dialog.answer.text())
            dialog.kind.choose("smoke")
            dialog.kind.activated.emit(2)
            self.assertFalse(dialog.read.isVisible())

        self.prompts.paths, self.prompts.dialogs = [path, path], [look]
        w.run("empty_hive")

    def test_versions_in_words(self) -> None:
        project = apiary_project()
        old, new = project.design("plain-boards"), project.design("warm-lid-boards")
        said = design_changes(old, new, project.material_table())
        self.assertEqual(len(said), 1)
        self.assertIn("added", said[0])
        self.assertEqual(design_changes(old, old, project.material_table()), [])
        self.assertEqual(version_sentences(project, old), [])
        wide = replace(
            old,
            openings=(replace(old.openings[0], width_m=0.05), *old.openings[1:]),
            joints="dry-laid",
            tilt_deg=3.0,
        )
        text = " ".join(design_changes(old, wide, project.material_table()))
        for part in ("50 mm by", "joints dry-laid instead of", "another tilt"):
            self.assertIn(part, text)

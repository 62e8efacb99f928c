"""What is looked at: design, month, lens and face. Not part of the project, never undone."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from calveth.app.cutaway.view import Cut, Lens
from calveth.core.calendar import HOURS_IN_DAY, day_of_hour, middle_day, month_of_day
from calveth.core.hive.design import Face
from calveth.texts.units import METRIC, UnitSystem


class ViewState(QObject):
    """One place for the state that several views share."""

    design_changed = Signal(str)
    month_changed = Signal(int)
    hour_changed = Signal(int)
    lens_changed = Signal(str)
    face_changed = Signal(str)
    units_changed = Signal()
    unsure_changed = Signal()

    def __init__(self, design_id: str, month: int = 0) -> None:
        super().__init__()
        self._design_id, self._month = design_id, month
        self._hour = noon_of(month)
        self._lens: Lens = "wet"
        self._cut: Cut = "upright"
        self._face: Face = "lid"
        self._units = METRIC
        self.unsure: frozenset[str] = frozenset()
        """Rows of the place that the weather file did not hold and nobody has looked through."""

    @property
    def design_id(self) -> str:
        """Id of the design worked on."""
        return self._design_id

    @property
    def month(self) -> int:
        """Month looked at, 0 to 11."""
        return self._month

    @property
    def lens(self) -> Lens:
        """Lens over the cutaways."""
        return self._lens

    @property
    def cut(self) -> Cut:
        """How a solved hive is looked at through the lens Warmth."""
        return self._cut

    def set_cut(self, cut: Cut) -> None:
        """Look at the hive cut in another way."""
        if cut != self._cut:
            self._cut = cut
            self.lens_changed.emit(self._lens)

    @property
    def face(self) -> Face:
        """Face whose layers are shown."""
        return self._face

    def set_design(self, design_id: str) -> None:
        """Look at another design."""
        if design_id != self._design_id:
            self._design_id = design_id
            self.design_changed.emit(design_id)

    def begin_at(self, design_id: str) -> None:
        """Look at a design of a project whose change is told next: nobody is told twice."""
        self._design_id = design_id

    @property
    def hour(self) -> int:
        """Hour of the year looked at, 0 to 8759; it lies in the month."""
        return self._hour

    @property
    def by_hour(self) -> bool:
        """Whether one hour is looked at, not the whole month."""
        return self._hour != noon_of(self._month)

    def set_month(self, month: int) -> None:
        """Look at a whole month."""
        changed = month != self._month
        if changed or self.by_hour:
            self._month, self._hour = month, noon_of(month)
            if changed:
                self.month_changed.emit(month)
            self.hour_changed.emit(self._hour)

    def set_hour(self, hour: int) -> None:
        """Look at another hour, and with it at its month."""
        if hour == self._hour:
            return
        self._hour = hour
        month = month_of_day(day_of_hour(hour))
        if month != self._month:
            self._month = month
            self.month_changed.emit(month)
        self.hour_changed.emit(hour)

    def set_lens(self, lens: Lens) -> None:
        """Look through another lens."""
        if lens != self._lens:
            self._lens = lens
            self.lens_changed.emit(lens)

    def set_face(self, face: Face) -> None:
        """Look at another face."""
        if face != self._face:
            self._face = face
            self.face_changed.emit(face)

    @property
    def units(self) -> UnitSystem:
        """Units figures are written in."""
        return self._units

    def set_unsure(self, rows: frozenset[str]) -> None:
        """Mark other rows of the place as not looked through."""
        if rows != self.unsure:
            self.unsure = rows
            self.unsure_changed.emit()

    def set_units(self, units: UnitSystem) -> None:
        """Write figures in other units."""
        if units is not self._units:
            self._units = units
            self.units_changed.emit()


def noon_of(month: int) -> int:
    """Return the hour of the year at noon of the middle of a month (0 to 11)."""
    return middle_day(month) * HOURS_IN_DAY + 12

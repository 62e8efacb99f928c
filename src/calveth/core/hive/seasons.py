"""What is opened, closed, put on and taken off through the year."""

from __future__ import annotations

from dataclasses import dataclass, replace

from calveth.core.errors import require_between


@dataclass(frozen=True, slots=True, kw_only=True)
class MonthSetting:
    """How the hive is set in one month.

    Attributes
    ----------
    open_shares : tuple of (opening id, share)
        What the slider of an opening leaves open, 0 to 1; openings not named stay as designed.
    quilt, cover, tray : bool
        Whether quilt and cover are on and the tray is in the screened floor.
    """

    open_shares: tuple[tuple[str, float], ...] = ()
    quilt: bool = True
    cover: bool = True
    tray: bool = True

    def __post_init__(self) -> None:
        for opening, share in self.open_shares:
            require_between(f"open share of “{opening}”", share, 0, 1, "share")

    def share(self, opening_id: str, otherwise: float) -> float:
        """Return the open share of an opening."""
        return dict(self.open_shares).get(opening_id, otherwise)

    def with_share(self, opening_id: str, share: float) -> MonthSetting:
        """Return the setting with another open share of an opening."""
        kept = tuple(pair for pair in self.open_shares if pair[0] != opening_id)
        return replace(self, open_shares=(*kept, (opening_id, share)))


AS_BUILT = MonthSetting()
"""What holds for a design without a plan."""

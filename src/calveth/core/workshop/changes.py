"""What changes between two versions of a design: what stays, is cut down, is new, is left over."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from calveth.core.workshop.piece import Piece, Row, rows_of

_PLAY_M = 0.0005


@dataclass(frozen=True, slots=True, kw_only=True)
class Recut:
    """A piece of the old version that is cut down to one of the new."""

    old: Piece
    new: Piece


@dataclass(frozen=True, slots=True, kw_only=True)
class Changes:
    """How to make the new version from the old one.

    ``kept`` pieces stay as they are; ``recut`` old ones are cut down or drilled; ``new`` are to
    be made; ``over`` old ones have no use any more.
    """

    kept: int
    recut: tuple[Recut, ...]
    new: tuple[Row, ...]
    over: tuple[Row, ...]

    @property
    def nothing(self) -> bool:
        """Whether both are the same to build."""
        return not (self.recut or self.new or self.over)


def changes_between(old: Sequence[Piece], new: Sequence[Piece]) -> Changes:
    """Return what changes from the pieces of one version to those of another.

    Old pieces of the same material and thickness that are large enough are cut down, the nearest
    in size first; holes an old piece has must not lie open in the new one.
    """
    had, counts_old = Counter(p.kind for p in old), Counter(p.kind for p in new)
    same = had & counts_old
    spare = _rest(old, same)
    missing = _rest(new, same)
    recut = []
    for piece in sorted(missing, key=lambda p: -p.length_m * p.width_m):
        fits = [o for o in spare if _can_become(o, piece)]
        if not fits:
            continue
        best = min(fits, key=lambda o: o.length_m * o.width_m)
        spare.remove(best)
        missing = [m for m in missing if m is not piece]
        recut.append(Recut(old=best, new=piece))
    return Changes(
        kept=sum(same.values()), recut=tuple(recut), new=rows_of(missing), over=rows_of(spare)
    )


def _rest(pieces: Sequence[Piece], same: Counter[tuple[object, ...]]) -> list[Piece]:
    left = Counter(same)
    changed = []
    for piece in pieces:
        if left[piece.kind] > 0:
            left[piece.kind] -= 1
        else:
            changed.append(piece)
    return changed


def _can_become(old: Piece, new: Piece) -> bool:
    if old.material != new.material or old.added != new.added:
        return False
    if abs(old.thickness_m - new.thickness_m) > _PLAY_M or old.outline or new.outline:
        return False
    if old.bought_as in ("block", "cast"):
        return False
    if old.cutouts and old.cutouts != new.cutouts:
        return False
    straight = old.length_m >= new.length_m - _PLAY_M and old.width_m >= new.width_m - _PLAY_M
    turned = old.width_m >= new.length_m - _PLAY_M and old.length_m >= new.width_m - _PLAY_M
    return straight or (turned and not old.has_grain)

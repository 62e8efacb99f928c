"""Bytes that belong to a project and never change: known by their digest, kept once."""

from __future__ import annotations

import hashlib


class Blob:
    """Immutable bytes; two are equal when their digests are.

    Undo keeps references to them and a file writes each of them once, whatever is edited.
    """

    __slots__ = ("data", "digest")
    data: bytes
    digest: str

    def __init__(self, data: bytes) -> None:
        self.data = data
        self.digest = hashlib.blake2b(data, digest_size=16).hexdigest()

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Blob) and other.digest == self.digest

    def __hash__(self) -> int:
        return hash(self.digest)

    def __repr__(self) -> str:
        return f"Blob({len(self.data)} bytes, {self.digest[:8]})"

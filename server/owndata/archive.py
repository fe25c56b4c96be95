"""Writing an export: one zip, file after file, never more of it in memory than a block."""

from __future__ import annotations

import zipfile
from collections.abc import Callable, Sequence
from pathlib import Path

from footage.files import open_private
from footage.store import at_hand
from jobs.running import Stopped

from .collecting import Piece

BLOCK = 1024 * 1024


def write_zip(into: Path, pieces: Sequence[Piece], go_on: Callable[[float], bool]) -> int:
    """Write the pieces into a zip; its size in bytes. ``go_on`` is given the share that is done.

    Clips are stored as they are, since they are compressed already. Raises Stopped where ``go_on`` says no, and OSError
    where the disk is full.
    """
    every, done = sum(piece.size for piece in pieces) or 1, 0
    with open_private(into, "wb") as file, zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for piece in pieces:
            if piece.made is not None:
                archive.writestr(piece.name, piece.made())
                done += piece.size
                if not go_on(done / every):
                    raise Stopped
                continue
            assert piece.path is not None  # a piece is made or lies somewhere
            path = at_hand(piece.path)
            info = zipfile.ZipInfo.from_file(path, piece.name)
            with path.open("rb") as clip, archive.open(info, "w", force_zip64=True) as entry:
                while block := clip.read(BLOCK):
                    entry.write(block)
                    done += len(block)
                    if not go_on(min(1, done / every)):
                        raise Stopped
    return into.stat().st_size

"""ffprobe and ffmpeg, run on files that anybody may have made.

They run without rights, with limits on memory, processor time, time and output, in a sandbox that has the system's
programs, the files that they are given, and nothing else: no other clip, no network, no other process. They read only
one of the containers that phones and cameras write: never a playlist or a list of files, which could name another.
"""

from __future__ import annotations

import logging
import os
import selectors
import shutil
import signal
import subprocess
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from jobs.running import NO_ROOM, NotMade, Stopped

from .files import make_private, open_private, tools_user

log = logging.getLogger(__name__)

DEMUXERS = {
    "mov,mp4,m4a,3gp,3g2,mj2": "mov",
    "matroska,webm": "matroska",
    "avi": "avi",
    "mpegts": "mpegts",
    "mpeg": "mpeg",
}
"""The containers that a clip may be in: as ffprobe names them, and the demuxer that reads them."""
MOST_PIXELS_DECODED = 40_000_000
"""The largest picture that is decoded: 8K has 33 million pixels."""
POLL_S = 0.25
MEBI = 1024 * 1024
ENVIRONMENT = {"HOME": "/nonexistent", "MALLOC_ARENA_MAX": "2"}
"""All that a tool sees of the server's environment but its path; threads share memory that counts as one's own."""
LEVEL = ["-v", "error"]
"""Either tool says what is wrong, and nothing else."""
LEAST_FREE = 4 * MEBI
"""Bytes: with less, a tool that failed did so for want of room, whatever it says."""
MOST_WORDS = 4096
"""Bytes of a tool's messages that are kept, the latest ones."""


@dataclass(frozen=True, slots=True)
class Limits:
    """What one run of a tool may use. ``memory`` and ``output`` in bytes, times in seconds."""

    memory: int
    cpu: int
    wall: float
    output: int = 0


class TooMuch(NotMade):
    """The tool was stopped at one of its limits: the file asks for more than a clip does."""


class TookTooLong(NotMade):
    """The tool did not finish in time; on a busy machine that may be nobody's fault."""


def reading(path: Path, demuxer: str = "") -> list[str]:
    """The options with which either tool reads a clip; without a demuxer any of the allowed ones."""
    only = ["-f", demuxer] if demuxer else []
    allowed = demuxer or ",".join(DEMUXERS)
    # A name without a folder: the tool is started where its files are.
    return ["-protocol_whitelist", "file,pipe", "-format_whitelist", allowed, *only, "-i", f"file:{path.name}"]


@dataclass(frozen=True, slots=True)
class Files:
    """The files of a folder that a tool is given: it reads the first ones, and writes the others."""

    reads: tuple[Path, ...]
    writes: tuple[Path, ...] = ()

    @property
    def folder(self) -> Path:
        return self.reads[0].parent


SANDBOX = [
    "bwrap", "--die-with-parent", "--unshare-ipc", "--unshare-pid", "--unshare-net", "--unshare-uts",
    "--unshare-cgroup-try", "--ro-bind", "/usr", "/usr", "--symlink", "usr/bin", "/bin", "--symlink", "usr/lib", "/lib",
    "--symlink", "usr/lib64", "/lib64", "--dir", "/etc", "--dir", "/var", "--dir", "/var/cache",
    "--ro-bind-try", "/etc/ld.so.cache", "/etc/ld.so.cache",
    "--ro-bind-try", "/etc/alternatives", "/etc/alternatives", "--ro-bind-try", "/etc/fonts", "/etc/fonts",
    "--ro-bind-try", "/var/cache/fontconfig", "/var/cache/fontconfig", "--dev", "/dev", "--tmpfs", "/tmp",
]  # fmt: skip
INSIDE = "/clips"
"""Where the files are in the sandbox."""


def _namespaces() -> list[str]:
    """How the sandbox is made: root makes it by right, and gives its rights away inside; who has none needs a map."""
    if os.geteuid() == 0:
        return ["--cap-drop", "ALL", "--cap-add", "CAP_SETUID", "--cap-add", "CAP_SETGID"]
    return ["--unshare-user"]


@cache
def sandboxed() -> bool:
    """Whether this machine makes sandboxes; some containers don't."""
    try:
        tried = subprocess.run([*SANDBOX, *_namespaces(), "true"], capture_output=True, timeout=60, check=False)
        made, why = tried.returncode == 0, tried.stderr.decode("utf-8", "replace").strip()
    except (OSError, subprocess.TimeoutExpired) as error:
        made, why = False, str(error)
    if not made:
        log.warning("no sandbox for video tools on this machine, so they run without one: %s", why)
    return made


def _sandbox(files: Files) -> list[str]:
    command = [*SANDBOX, *_namespaces(), "--dir", INSIDE]
    for path in files.reads:
        command += ["--ro-bind", str(path.resolve()), f"{INSIDE}/{path.name}"]
    for path in files.writes:
        open_private(path, "wb").close()  # it is put into the sandbox, so it has to be there
        command += ["--bind", str(path.resolve()), f"{INSIDE}/{path.name}"]
    return [*command, "--chdir", INSIDE, "--"]


def run(
    tool: str, arguments: list[str], files: Files, limits: Limits, go_on: Callable[[], bool] = lambda: True
) -> Iterator[str]:
    """Run a tool and yield the lines it prints; otherwise as :func:`output_of`."""
    rest = b""
    for block in output_of(tool, arguments, files, limits, go_on):
        *whole, rest = (rest + block).split(b"\n")
        for line in whole:
            yield line.decode("utf-8", "replace")
        if len(rest) > MEBI:
            raise TooMuch("it printed a line without an end")
    if rest:
        yield rest.decode("utf-8", "replace")


def output_of(
    tool: str, arguments: list[str], files: Files, limits: Limits, go_on: Callable[[], bool] = lambda: True
) -> Iterator[bytes]:
    """Run a tool on some files and yield what it prints, block by block.

    ``go_on`` is asked several times a second; where it says no, the tool is killed. Raises NotMade or Stopped. The tool
    is killed too when the caller stops reading.
    """
    bounds = [f"--as={limits.memory}", f"--cpu={limits.cpu}", f"--fsize={limits.output}", "--core=0", "--nofile=64"]
    user = tools_user()
    make_private(files.folder)
    as_user = []
    if user is not None:
        as_user = [f"--reuid={user.pw_uid}", f"--regid={user.pw_gid}", "--clear-groups", "--bounding-set=-all"]
    # It ends with the worker that waits for it, however that ends.
    drop = ["setpriv", "--pdeathsig", "KILL", *as_user, "--no-new-privs"]
    sandbox = _sandbox(files) if sandboxed() else []
    command = [*sandbox, *drop, "prlimit", *bounds, "--", tool, *LEVEL, *arguments]
    deadline = time.monotonic() + limits.wall
    words = bytearray()
    with subprocess.Popen(
        command, cwd=files.folder, stdin=subprocess.DEVNULL, stdout=subprocess.PIPE, stderr=subprocess.PIPE,
        # The sandbox's own folders are made as the umask says, and walked without rights; no file is made in it.
        start_new_session=True, umask=0o022 if sandbox else 0o077,
        env={**ENVIRONMENT, "PATH": os.environ.get("PATH", os.defpath)},
    ) as process:  # fmt: skip
        try:
            yield from blocks_of(process, words, deadline, go_on)
            status = process.wait(timeout=max(POLL_S, deadline - time.monotonic()))
        except subprocess.TimeoutExpired:
            raise TookTooLong("it did not finish in time") from None
        finally:
            if process.poll() is None:
                os.killpg(process.pid, signal.SIGKILL)
        if status:
            raise _failure(status, words.decode("utf-8", "replace"), shutil.disk_usage(files.folder).free)


def blocks_of(
    process: subprocess.Popen[bytes], words: bytearray, deadline: float, go_on: Callable[[], bool]
) -> Iterator[bytes]:
    """What a process prints as it comes, looking up several times a second whether to go on. Raises NotMade or Stopped.

    Its latest messages of trouble are left in ``words``.
    """
    assert process.stdout is not None and process.stderr is not None  # they are pipes
    with selectors.DefaultSelector() as ready:
        for pipe in (process.stdout, process.stderr):
            ready.register(pipe, selectors.EVENT_READ)
        while ready.get_map():
            if not go_on():
                raise Stopped
            if time.monotonic() > deadline:
                raise TookTooLong("it did not finish in time")
            for key, _ in ready.select(POLL_S):
                block = os.read(key.fd, 64 * 1024)
                if not block:
                    ready.unregister(key.fileobj)
                elif key.fileobj is process.stderr:
                    words += block
                    del words[:-MOST_WORDS]
                else:
                    yield block


def _failure(status: int, words: str, free: int) -> NotMade:
    said = [line for line in words.splitlines() if line.strip()]
    last = said[-1][:300] if said else "the tool stopped without a message"
    by_limit = (signal.SIGXCPU, signal.SIGKILL, signal.SIGXFSZ, signal.SIGSEGV, signal.SIGABRT)
    ended_by = status - 128 if status > 128 else -status  # the sandbox says it as a shell does
    if ended_by in by_limit or "Cannot allocate memory" in words:
        return TooMuch("it needs more memory or time than a clip may take")
    return NotMade(NO_ROOM if free < LEAST_FREE else last)

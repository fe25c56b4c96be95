"""Files that somebody may upload to read, stop or fill up what is not theirs. Each is called like a clip.

What the formats look like is from their public descriptions: ISO/IEC 14496-12 for the boxes of an MP4 file, RFC 8216
for HLS playlists, ISO/IEC 23009-1 for DASH, and ffmpeg's own documentation for ffconcat and ffmetadata.
"""

from __future__ import annotations

import io
import struct
import subprocess
import tempfile
import zipfile
from pathlib import Path

from PIL import Image

from .base import made

PLAIN = ("-c:v", "libx264", "-pix_fmt", "yuv420p", "-threads", "1")


def by_ffmpeg(name: str, *arguments: str, source: str = "testsrc=duration=1:size=64x48:rate=10") -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / name
        command = ["ffmpeg", "-v", "error", "-f", "lavfi", "-i", source, *arguments, str(path)]
        subprocess.run(command, check=True)
        return path.read_bytes()


def picture(form: str) -> bytes:
    held = io.BytesIO()
    Image.new("RGB", (64, 48), "white").save(held, form)
    return held.getvalue()


def patched(data: bytes, box: bytes, offset: int, *numbers: int) -> bytes:
    """An MP4 file with 32-bit numbers written over what is so far behind the name of a box; all boxes of that name."""
    found, at = bytearray(data), data.find(box)
    assert at >= 0, box
    while at >= 0:
        struct.pack_into(f">{len(numbers)}I", found, at + 4 + offset, *numbers)
        at = data.find(box, at + 4)
    return bytes(found)


def many_samples(data: bytes) -> bytes:
    """A small file that declares eighty million frames of one byte: its table is to be built in memory."""
    count = 80_000_000
    data = patched(data, b"stsz", 4, 1, count)
    data = patched(data, b"stts", 4, 1, count, 1)
    return patched(data, b"stsc", 4, 1, 1, count, 1)


def hostile_files(other: str, address: str) -> dict[str, bytes]:
    """Files by what they try.

    ``other`` is the name of a file in the same folder that is somebody else's clip, ``address`` one that they may ask.
    """
    small = made("a.mp4", *PLAIN, "-g", "10")
    hls = "#EXTM3U\n#EXT-X-VERSION:3\n#EXT-X-TARGETDURATION:30\n#EXTINF:30,\n{}\n#EXT-X-ENDLIST\n"
    archive = io.BytesIO()
    with zipfile.ZipFile(archive, "w") as packed:
        packed.writestr("clip.mp4", small)
    return {
        "a list of files": f"ffconcat version 1.0\nfile {other}\nduration 30\n".encode(),
        "a list of files by its full address": f"ffconcat version 1.0\nfile file:{other}\nduration 30\n".encode(),
        "a playlist": hls.format(other).encode(),
        "a playlist of a cut": hls.format(f"{other}.cut.mp4").encode(),
        "a playlist of an address": hls.format(f"{address}/secret.ts").encode(),
        "a list of an address": f"ffconcat version 1.0\nfile {address}/secret.mp4\n".encode(),
        "a playlist in a list": f"ffconcat version 1.0\nfile 'concat:{other}|{other}'\n".encode(),
        "a manifest": f'<MPD xmlns="urn:mpeg:dash:schema:mpd:2011"><BaseURL>{other}</BaseURL></MPD>'.encode(),
        "a description of a session": b"v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nt=0 0\nm=video 5004 RTP/AVP 96\n",
        "metadata": b";FFMETADATA1\ntitle=x\n",
        "a script of frames": f"movie={other}\n".encode(),
        "text": b"Dear diary, today nobody passed my guard. " * 50,
        "subtitles": b"1\n00:00:00,000 --> 00:00:30,000\nhello\n",
        "captions": b"WEBVTT\n\n00:00.000 --> 00:30.000\nhello\n",
        "a vector picture": f'<svg xmlns="http://www.w3.org/2000/svg"><image href="{other}"/></svg>'.encode(),
        "a photograph": picture("JPEG"),
        "a drawing": picture("PNG"),
        "a moving picture": by_ffmpeg("a.gif"),
        "a song": by_ffmpeg("a.mp3", source="sine=duration=2"),
        "a sound": by_ffmpeg("a.wav", source="sine=duration=2"),
        "sound in a container": by_ffmpeg("a.mkv", source="sine=duration=2"),
        "a bare stream": by_ffmpeg("a.h264", *PLAIN),
        "bare pictures": by_ffmpeg("a.y4m", "-pix_fmt", "yuv420p"),
        "another container": by_ffmpeg("a.flv"),
        "an archive": archive.getvalue(),
        "a clip without its index": small[: len(small) // 2],
        "a clip with millions of frames": many_samples(small),
        "a clip of a year": patched(patched(small, b"mvhd", 12, 1, 31_536_000), b"mdhd", 12, 1, 31_536_000),
        "a clip with a huge picture": patched(small, b"avc1", 24, 0xFFFFFFFF),
        "zeros": bytes(4096),
    }

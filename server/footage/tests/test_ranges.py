"""Playing clips: byte ranges, and what nginx is asked to send."""

from footage.models import Clip

from .base import ClipCase


class Ranges(ClipCase):
    """Byte ranges as RFC 9110, section 14, has them."""

    def setUp(self):
        super().setUp()
        self.clip = Clip.objects.create(
            club=self.club, uploader=self.coach, name="a.webm", size=10, state="ready", content_type="video/webm"
        )
        self.clip.path.write_bytes(b"0123456789")

    def get(self, **headers):
        return self.client.get(f"/api/clips/{self.clip.pk}/content", headers=headers)

    def test_ranges(self):
        table = {
            "bytes=0-3": (206, b"0123", "bytes 0-3/10"),
            "bytes=4-": (206, b"456789", "bytes 4-9/10"),
            "bytes=-3": (206, b"789", "bytes 7-9/10"),
            "bytes=8-99": (206, b"89", "bytes 8-9/10"),
            "bytes=-99": (206, b"0123456789", "bytes 0-9/10"),
            "bytes=10-": (416, b"", "bytes */10"),
            "bytes=-0": (416, b"", "bytes */10"),
            "bytes=5-2": (200, b"0123456789", None),
            "bytes=0-1,4-5": (200, b"0123456789", None),
            "lines=1-2": (200, b"0123456789", None),
        }
        for asked, (status, body, got) in table.items():
            with self.subTest(asked):
                answer = self.get(range=asked)
                content = b"".join(answer) if answer.streaming else answer.content
                self.assertEqual((answer.status_code, content, answer.get("Content-Range")), (status, body, got))

    def test_if_range(self):
        tag = self.get()["ETag"]
        self.assertEqual(self.get(range="bytes=0-1", **{"if-range": tag}).status_code, 206)
        self.assertEqual(self.get(range="bytes=0-1", **{"if-range": '"old"'}).status_code, 200)

    def test_a_file_that_is_gone(self):
        self.clip.path.unlink()
        self.assertEqual(self.get().json()["code"], "gone")

"""Mails: those on their way, and those of an installation without a mail server, which are kept and read on a page."""

from django.db import models


class Outgoing(models.Model):
    """A mail on its way to the mail server."""

    at = models.DateTimeField(auto_now_add=True)
    message = models.JSONField()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"a mail of {self.at}"


class Mail(models.Model):
    at = models.DateTimeField(auto_now_add=True)
    to = models.EmailField(db_index=True)
    subject = models.CharField(max_length=200)
    body = models.TextField()

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return f"{self.subject}, to {self.to}"

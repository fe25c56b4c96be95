"""Mails of an installation without a mail server: they are kept here, and read on a page."""

from django.db import models


class Mail(models.Model):
    at = models.DateTimeField(auto_now_add=True)
    to = models.EmailField(db_index=True)
    subject = models.CharField(max_length=200)
    body = models.TextField()

    class Meta:
        ordering = ["-at", "-pk"]

    def __str__(self) -> str:
        return f"{self.subject}, to {self.to}"

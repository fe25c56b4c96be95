"""The queues of the workers. A worker takes all of them, or those that it is asked to take."""

MEDIA = "media"
"""Work on files that anybody may have made: a worker for it needs no network."""
OTHER = "other"
POST = "post"
"""Mails on their way to a mail server."""

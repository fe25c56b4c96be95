"""The scoreboard in a clip: where it is marked, what is read from it, and what that proposes for the log."""

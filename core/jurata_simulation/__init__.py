"""Stand-ins for what stands outside: the camera in the stands, and the scoreboard table. For the demo and the tests."""

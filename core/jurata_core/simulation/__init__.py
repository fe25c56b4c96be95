"""Stand-ins for what stands outside: the camera in the stands. Used by the demo and the tests."""

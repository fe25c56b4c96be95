"""Tests of the core. Whether made input comes slowly depends on the machine, and is no reason to fail."""

from hypothesis import HealthCheck, settings

settings.register_profile("any machine", suppress_health_check=[HealthCheck.too_slow], deadline=None)
settings.load_profile("any machine")

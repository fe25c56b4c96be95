"""How two figures look in each position: joints in metres on the mat.

A pose maps joint names to (x, y, z): x along the picture, y away from the
camera, z up. Each position has the pose of the side on top (or of the athlete,
where nobody is) and of the other.
"""

from __future__ import annotations

from jurata_core.adjudication.places import Place
from jurata_core.match_log.observations import OTHER, Side

Point = tuple[float, float, float]
Pose = dict[str, Point]

JOINTS = ("head", "neck", "hip", "knee_l", "foot_l", "knee_r", "foot_r", "hand_l", "hand_r")
LIMBS = (("hip", "knee_l", "foot_l"), ("hip", "knee_r", "foot_r"), ("neck", "hand_l"), ("neck", "hand_r"))


def _pose(*points: Point) -> Pose:
    return dict(zip(JOINTS, points, strict=True))


def _mirrored(pose: Pose) -> Pose:
    return {joint: (-x, y, z) for joint, (x, y, z) in pose.items()}


_FEET = _pose(
    (-0.42, 0, 1.66), (-0.5, 0, 1.42), (-0.68, 0, 0.9), (-0.78, -0.15, 0.45), (-0.85, -0.18, 0),
    (-0.45, 0.15, 0.48), (-0.5, 0.15, 0), (-0.02, -0.1, 1.25), (-0.08, 0.12, 1.05),
)  # fmt: skip
_FLAT = _pose(
    (0.95, 0, 0.12), (0.7, 0, 0.12), (0.05, 0, 0.12), (-0.3, -0.15, 0.42), (-0.55, -0.2, 0),
    (-0.3, 0.18, 0.42), (-0.55, 0.2, 0), (0.5, -0.3, 0.3), (0.45, 0.3, 0.35),
)  # fmt: skip
_ON_BACK_LEGS_UP = _pose(
    (0.95, 0, 0.2), (0.72, 0, 0.14), (0.1, 0, 0.12), (-0.12, -0.34, 0.62), (-0.62, -0.3, 0.6),
    (-0.12, 0.34, 0.62), (-0.62, 0.3, 0.6), (0.25, -0.15, 0.55), (0.2, 0.15, 0.6),
)  # fmt: skip
_KNEELING = _pose(
    (0.12, 0, 1.0), (-0.08, 0, 0.82), (-0.48, 0, 0.36), (-0.25, -0.25, 0), (-0.75, -0.25, 0),
    (-0.25, 0.25, 0), (-0.75, 0.25, 0), (0.4, -0.15, 0.32), (0.42, 0.15, 0.35),
)  # fmt: skip
_ACROSS = _pose(
    (0.5, 0.42, 0.42), (0.46, 0.18, 0.4), (0.36, -0.5, 0.26), (0.1, -0.5, 0), (0.02, -0.95, 0),
    (0.66, -0.55, 0), (0.62, -1.0, 0), (0.85, 0.15, 0.15), (0.05, 0.3, 0.18),
)  # fmt: skip
_KNEE_ON = _pose(
    (0.42, -0.12, 1.3), (0.36, -0.15, 1.08), (0.12, -0.35, 0.6), (0.22, 0.02, 0.3), (-0.12, -0.1, 0.24),
    (0.05, -0.75, 0.45), (0.12, -0.95, 0), (0.72, 0, 0.25), (-0.15, -0.1, 0.4),
)  # fmt: skip
_ASTRIDE = _pose(
    (0.32, 0, 1.14), (0.22, 0, 0.92), (0.12, 0, 0.4), (0.4, -0.34, 0.08), (-0.1, -0.36, 0),
    (0.4, 0.34, 0.08), (-0.1, 0.36, 0), (0.7, -0.16, 0.3), (0.72, 0.16, 0.3),
)  # fmt: skip
_SITTING_HELD = _pose(
    (0.12, 0, 0.88), (0.06, 0, 0.66), (0.12, 0, 0.12), (0.55, -0.2, 0.42), (0.85, -0.22, 0),
    (0.55, 0.2, 0.42), (0.85, 0.22, 0), (0.2, -0.14, 0.72), (0.2, 0.14, 0.68),
)  # fmt: skip
_BEHIND = _pose(
    (-0.2, 0.05, 1.0), (-0.26, 0, 0.74), (-0.28, 0, 0.14), (0.1, -0.36, 0.36), (0.42, -0.14, 0.22),
    (0.1, 0.36, 0.36), (0.42, 0.14, 0.22), (0.2, -0.05, 0.78), (0.16, 0.12, 0.6),
)  # fmt: skip
_BEHIND_ONE_HOOK = {**_BEHIND, "knee_l": (-0.55, -0.5, 0.1), "foot_l": (-1.0, -0.62, 0.0)}
_TURTLED = _pose(
    (0.62, 0, 0.14), (0.45, 0, 0.34), (-0.1, 0, 0.46), (0.08, -0.16, 0), (-0.4, -0.16, 0),
    (0.08, 0.16, 0), (-0.4, 0.16, 0), (0.55, -0.18, 0), (0.58, 0.18, 0),
)  # fmt: skip
_ON_TURTLE = _pose(
    (0.22, -0.12, 0.98), (0.08, -0.16, 0.8), (-0.52, -0.3, 0.6), (-0.6, -0.4, 0.28), (-1.0, -0.5, 0),
    (-0.4, -0.1, 0.28), (-0.75, 0.2, 0), (0.4, 0.1, 0.4), (0.3, -0.35, 0.25),
)  # fmt: skip
_SEATED = _pose(
    (-0.85, 0, 0.86), (-0.85, 0, 0.62), (-0.75, 0, 0.1), (-0.42, -0.15, 0.4), (-0.14, -0.15, 0),
    (-0.42, 0.15, 0.4), (-0.14, 0.15, 0), (-0.5, -0.3, 0.45), (-1.05, 0.2, 0.02),
)  # fmt: skip
_LEGS_IN = _pose(
    (-0.95, 0, 0.62), (-0.82, 0, 0.44), (-0.5, 0, 0.1), (-0.02, -0.25, 0.42), (0.42, -0.2, 0.12),
    (-0.05, 0.25, 0.3), (0.46, 0.2, 0.35), (-0.3, -0.1, 0.4), (-1.0, 0.3, 0.02),
)  # fmt: skip
_LEGS_IN_TOP = {
    **_LEGS_IN,
    "head": (-0.5, 0, 1.12),
    "neck": (-0.48, 0, 0.9),
    "hip": (-0.45, 0, 0.4),
    "hand_r": (0.3, 0.1, 0.4),
}
_TUMBLING = _pose(
    (0.05, 0.1, 0.95), (-0.1, 0.05, 0.75), (-0.45, 0, 0.5), (-0.2, -0.3, 0.3), (-0.6, -0.4, 0.05),
    (-0.6, 0.3, 0.4), (-1.0, 0.3, 0.3), (0.35, -0.2, 0.6), (0.3, 0.25, 0.4),
)  # fmt: skip
_TUMBLED = _pose(
    (0.6, -0.1, 0.5), (0.45, 0, 0.4), (0.25, 0, 0.55), (0.55, -0.35, 0.75), (0.85, -0.3, 0.4),
    (0.1, 0.35, 0.2), (0.5, 0.45, 0.05), (-0.05, -0.3, 0.5), (0.2, 0.3, 0.05),
)  # fmt: skip

POSES: dict[str, tuple[Pose, Pose]] = {
    "standing": (_FEET, _mirrored(_FEET)),
    "guard": (_KNEELING, _ON_BACK_LEGS_UP),
    "side": (_ACROSS, _FLAT),
    "knee_on_belly": (_KNEE_ON, _FLAT),
    "mount": (_ASTRIDE, _FLAT),
    "back": (_BEHIND, _SITTING_HELD),
    "back_one_hook": (_BEHIND_ONE_HOOK, _SITTING_HELD),
    "turtle": (_ON_TURTLE, _TURTLED),
    "entangled": (_LEGS_IN, _mirrored(_LEGS_IN)),
    "double_pull": (_SEATED, _mirrored(_SEATED)),
    "scramble": (_TUMBLING, _TUMBLED),
}


def poses_of(place: Place) -> dict[Side, Pose]:
    """The poses of both sides in a position."""
    upper, lower = POSES[place.position]
    if place.position == "entangled" and place.top is not None:
        upper = _LEGS_IN_TOP
    top: Side = place.top or "a"
    return {top: upper, OTHER[top]: lower}


def between(start: Pose, end: Pose, share: float) -> Pose:
    """A pose part of the way from one to another; ``share`` from 0 to 1, eased at both ends."""
    eased = share * share * (3 - 2 * share)
    return {
        joint: (
            start[joint][0] + (end[joint][0] - start[joint][0]) * eased,
            start[joint][1] + (end[joint][1] - start[joint][1]) * eased,
            start[joint][2] + (end[joint][2] - start[joint][2]) * eased,
        )
        for joint in JOINTS
    }

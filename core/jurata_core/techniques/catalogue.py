"""The technique catalogue: names, spellings and parents, read from the JSON files of this folder."""

from __future__ import annotations

import difflib
import json
import re
import unicodedata
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path
from typing import Literal, NamedTuple, cast

FOLDER = Path(__file__).parent
LegalFrom = Literal["always", "age-13", "age-16", "blue", "brown", "brown-nogi", "never"]
LEGAL_FROM = ("always", "age-13", "age-16", "blue", "brown", "brown-nogi", "never")


class Turn(NamedTuple):
    """What makes another technique of one: ``when`` is the end of a sentence."""

    into: str
    when: str


@dataclass(frozen=True, slots=True)
class Technique:
    """One technique or variant. A variant has the status of its parent."""

    id: str
    name: str
    family: str
    about: str
    parent: str | None
    aliases: tuple[str, ...]
    legal_from: LegalFrom
    below: Literal["illegal", "stop"]
    injures: str | None
    caution: str | None
    likely: Mapping[str, int]
    """The places it is often tried from, as "mount top", with how many are tried more often there."""
    meant_by: tuple[str, ...]
    """Words for a whole family that may mean it, as "leg lock"; it is not found by them."""
    turns: tuple[Turn, ...]
    """What turns it into another one; the variants of a technique turn as it does."""
    varies: str | None
    """Where rulebooks differ about it, or leave it to the referee."""


def spelling(name: str) -> str:
    """A name as it is compared: no case, accents, hyphens, spaces or other marks."""
    plain = unicodedata.normalize("NFKD", name.casefold())
    return "".join(letter for letter in plain if letter.isalnum())


PLURAL = re.compile(r"(?<=x)es$|(?<=ss|ch|sh)es$|(?<=[^s])s$")


def _singular(name: str) -> str:
    """The spelling of a name with the plural's ending taken off every word: "leg locks" and "leg lock" are one."""
    return spelling(" ".join(PLURAL.sub("", word) for word in name.casefold().replace("-", " ").split()))


@cache
def catalogue() -> Mapping[str, Technique]:
    """All techniques by id. Raises ValueError where the data files contradict themselves."""
    found: dict[str, Technique] = {}
    likely, meant_by = _likely(), _family_words()
    turns, varies = _turns()
    for path in sorted(FOLDER.glob("[!_]*.json")):
        data = json.loads(path.read_text("utf-8"))
        for row in data["techniques"]:
            if row["id"] in found:
                raise ValueError(f"{path.name}: {row['id']} is listed twice")
            if row.get("legal_from", "always") not in LEGAL_FROM:
                raise ValueError(f"{path.name}: {row['id']}: legal_from {row['legal_from']!r} is not known")
            found[row["id"]] = Technique(
                id=row["id"],
                name=row["name"],
                family=data["family"],
                about=row["about"],
                parent=row.get("parent"),
                aliases=tuple(row.get("aliases", ())),
                legal_from=cast(LegalFrom, row.get("legal_from", "always")),
                below=row.get("below", "illegal"),
                injures=row.get("injures"),
                caution=row.get("caution"),
                likely=likely.pop(row["id"], {}),
                meant_by=meant_by.pop(row["id"], ()),
                turns=turns.pop(row["id"], ()),
                varies=varies.pop(row["id"], None),
            )
    left_over = {"_likely.json": [*likely], "_families.json": [*meant_by], "_turns.json": [*turns, *varies]}
    for file, left in left_over.items():
        if left:
            raise ValueError(f"{file}: not in the catalogue: {', '.join(left)}")
    for technique in found.values():
        if technique.parent is not None and technique.parent not in found:
            raise ValueError(f"{technique.id}: its parent {technique.parent} is not in the catalogue")
        if unknown := [turn.into for turn in technique.turns if turn.into not in found]:
            raise ValueError(f"_turns.json: not in the catalogue: {', '.join(unknown)}")
    return found


def _likely() -> dict[str, dict[str, int]]:
    """The ranks of techniques by place."""
    ranks: dict[str, dict[str, int]] = {}
    for place, ids in json.loads((FOLDER / "_likely.json").read_text("utf-8"))["places"].items():
        for rank, name in enumerate(ids):
            ranks.setdefault(name, {})[place] = rank
    return ranks


def _turns() -> tuple[dict[str, tuple[Turn, ...]], dict[str, str]]:
    """What turns each technique into another one, and where rulebooks differ about it."""
    data = json.loads((FOLDER / "_turns.json").read_text("utf-8"))
    turns: dict[str, tuple[Turn, ...]] = {}
    for row in data["turns"]:
        for name in row["of"]:
            turns[name] = (*turns.get(name, ()), Turn(row["into"], row["when"]))
    return turns, {name: row["text"] for row in data["varies"] for name in row["of"]}


def _family_words() -> dict[str, tuple[str, ...]]:
    """The words for a family by the techniques that they may mean."""
    words: dict[str, tuple[str, ...]] = {}
    for row in json.loads((FOLDER / "_families.json").read_text("utf-8"))["families"]:
        for name in row["techniques"]:
            words[name] = (*words.get(name, ()), *row["words"])
    return words


@cache
def _by_spelling() -> Mapping[str, str]:
    names: dict[str, str] = {}
    for technique in catalogue().values():
        for name in (technique.id, technique.name, *technique.aliases):
            key = spelling(name)
            if names.setdefault(key, technique.id) != technique.id:
                raise ValueError(f"{name!r} names both {names[key]} and {technique.id}")
    return names


@cache
def _by_singular() -> Mapping[str, str]:
    """Ids by their names in the singular; the first of several that fall together."""
    names: dict[str, str] = {}
    for technique in catalogue().values():
        for name in (technique.id, technique.name, *technique.aliases):
            names.setdefault(_singular(name), technique.id)
    return names


@lru_cache(maxsize=4096)
def find(name: str) -> Technique | None:
    """The technique of that name, alias, spelling or plural, or None."""
    found = _by_spelling().get(spelling(name)) or _by_singular().get(_singular(name))
    return None if found is None else catalogue()[found]


NOT_NAMED = "not named"
"""What is logged where somebody saw an attack and not which one."""


def within_sentence(name: str) -> str:
    """A technique as it stands in a sentence, by its name where the catalogue knows it."""
    if name == NOT_NAMED:
        return "a submission that was not named"
    technique = find(name)
    called = name if technique is None else technique.name
    return called[:1].lower() + called[1:]


@cache
def _families() -> Mapping[str, tuple[str, ...]]:
    """The ids of each family's techniques by its names in the singular."""
    found: dict[str, list[str]] = {}
    for technique in catalogue().values():
        for word in technique.meant_by:
            found.setdefault(_singular(word), []).append(technique.id)
    return {word: tuple(ids) for word, ids in found.items()}


def family(name: str) -> tuple[str, ...]:
    """The ids of the techniques that a word such as "leg lock" may mean; none where it names no family."""
    return () if find(name) else _families().get(_singular(name), ())


@lru_cache(maxsize=1024)
def suggestions(name: str, most: int = 3) -> tuple[str, ...]:
    """The ids nearest to a name that was not found, best first; of a family all of it."""
    if meant := family(name):
        return meant
    names = _by_spelling()
    close = _nearest(spelling(name), tuple(names), most * 3)
    return tuple(dict.fromkeys(names[key] for key in close))[:most]


CLOSE = 0.8
"""From so alike on, an unknown name is taken for a misspelling of the other."""


@lru_cache(maxsize=1024)
def misspelt(name: str) -> tuple[str, ...]:
    """The ids of the techniques that a name is a close misspelling of, or that the family it names has."""
    if meant := family(name):
        return meant
    key, names = spelling(name), _by_spelling()
    alike = difflib.get_close_matches(key, names, n=3, cutoff=CLOSE)
    return tuple(dict.fromkeys(names[one] for one in alike))


LONGEST_RUN = 8
"""So many words one name has at most."""
LEAST_LETTERS = 7
"""A name of fewer letters is not looked for inside a word: "slam" is in words that have nothing to do with it."""


@lru_cache(maxsize=1024)
def named_in(name: str) -> tuple[str, ...]:
    """The spellings of all that an unknown name has in it, word by word: "kneebar" in "running knee bars".

    What it ends with comes first: that says what kind of technique it is.
    """
    words = name.casefold().replace("-", " ").split()
    runs = (
        " ".join(words[first:last])
        for last in range(len(words), 0, -1) for first in range(max(0, last - LONGEST_RUN), last)
    )  # fmt: skip
    return tuple(dict.fromkeys(form for run in runs for form in (spelling(run), _singular(run))))


@lru_cache(maxsize=1024)
def within(name: str) -> tuple[str, ...]:
    """The ids of the techniques whose names, or the words for whose families, an unknown name has in it."""
    forms = named_in(name)
    whole = spelling(name)
    by_words = (found for form in forms if (found := _by_spelling().get(form) or _by_singular().get(form)))
    of_families = (one for form in forms for one in _families().get(form, ()))
    inside = (one for key, one in _by_spelling().items() if len(key) >= LEAST_LETTERS and key in whole)
    return tuple(dict.fromkeys((*by_words, *of_families, *inside)))


def _nearest(key: str, keys: tuple[str, ...], most: int) -> list[str]:
    """The spellings most alike, by RapidFuzz; scoring also runs on a bare Python, then by difflib."""
    try:
        from rapidfuzz import fuzz, process
    except ImportError:
        return difflib.get_close_matches(key, keys, n=most, cutoff=0.6)
    misspelt = process.extract(key, keys, scorer=fuzz.ratio, limit=most, score_cutoff=60)
    if not misspelt:  # a name within a longer one has most of its letters in a row
        shared = Counter(one for part in set(_parts(key)) for one in _by_part().get(part, ()))
        alike = tuple(one for one, times in shared.items() if times * 2 >= len(set(_parts(one))))
        misspelt = process.extract(key, alike, scorer=fuzz.WRatio, limit=most, score_cutoff=80)
    return [spelled for spelled, _, _ in misspelt]


@cache
def _by_part() -> Mapping[str, tuple[str, ...]]:
    """The spellings of the catalogue that have three letters in a row."""
    found: dict[str, list[str]] = {}
    for key in _by_spelling():
        for part in dict.fromkeys(_parts(key)):
            found.setdefault(part, []).append(key)
    return {part: tuple(keys) for part, keys in found.items()}


def _parts(key: str) -> list[str]:
    return [key[at : at + 3] for at in range(max(1, len(key) - 2))]


def lineage(technique: Technique) -> tuple[Technique, ...]:
    """The technique, its parent, and so on up to the one the rules name."""
    chain = [technique]
    while chain[-1].parent is not None:
        chain.append(catalogue()[chain[-1].parent])
    return tuple(chain)


def same_technique(one: str, other: str) -> bool:
    """Whether two names are of one technique; of names that the catalogue does not know, whether they are alike."""
    first, second = find(one), find(other)
    return one == other if first is None or second is None else first.id == second.id


LEG_LOCKS = "Leg locks and slicers"


def goes_for_a_leg(name: str) -> bool:
    """Whether a technique, by any of its names, is a lock or slicer of the leg."""
    found = find(name)
    return found is not None and lineage(found)[-1].family == LEG_LOCKS

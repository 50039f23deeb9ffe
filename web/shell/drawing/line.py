"""The line drawing: house to outdoors as one SVG, with every probe place that applies. Takes spots by their attributes;
knows nothing of the job.

Ink lines of three weights (unit 2, duct 1.4, detail 1), no fills but the sheet; suction a double line, liquid a single
one; grille and register heavy dashes; ground hatched. What is at fault is ruddy with a hatch. A spot: hollow until
read, filled when read, ruddy when out, crossed when it is not possible; places not needed for the question at hand are
small and soft.
"""

from dataclasses import dataclass
from math import cos, pi, sin

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

WIDTH, HEIGHT = 830, 478
GROUND = 404
UNIT, DUCT, DETAIL = 2.0, 1.4, 1.0
# spot -> where it is on the drawing
AT = {
    "return_grille": (76, 288), "return_unit": (152, 288), "return_plenum": (163, 316), "filter": (199, 252),
    "coil": (325, 286), "blower": (369, 288),
    "supply_plenum": (456, 288), "supply_static": (441, 260), "supply_register": (537, 238), "attic": (470, 196),
    "suction_line_indoor": (307, 350),
    "liquid_line_indoor": (267, 378), "drier_in": (608, 388), "liquid_line_outdoor": (652, 388),
    "suction_line_outdoor": (628, 368),
    "true_suction": (697, 330), "discharge_line": (736, 335), "condenser_air_out": (723, 232), "outdoor": (803, 318), "compressor": (723, 372),
    "outdoor_fan": (756, 258),
    "water_in": (668, 372), "water_out": (668, 392), "gauge_suction": (592, 368), "gauge_liquid": (572, 388),
}  # fmt: skip
FURNACE_AT = {
    "blower": (258, 288),
    "coil": (392, 286),
    "suction_line_indoor": (389, 350),
    "liquid_line_indoor": (349, 378),
}
GROUND_AT = {"compressor": (520, 372)}
# spot -> where its words are written: middle, top line of three, and whether that is under the drawing
WORDS_AT = {
    "return_unit": (150, 14, False), "coil": (322, 14, False), "supply_register": (520, 14, False),
    "condenser_air_out": (694, 14, False),
    "return_grille": (62, 76, False), "filter": (218, 76, False), "supply_plenum": (430, 76, False),
    "attic": (560, 76, False), "outdoor": (776, 76, False),
    "return_plenum": (56, 420, True), "blower": (166, 420, True), "suction_line_indoor": (272, 420, True),
    "liquid_line_indoor": (392, 420, True),
    "liquid_line_outdoor": (510, 420, True), "suction_line_outdoor": (628, 420, True), "true_suction": (628, 420, True),
    "compressor": (756, 420, True),
    "water_in": (628, 420, True),
}  # fmt: skip
# Gauges: one line each beside the pipes, its right end.
GAUGE_WORDS_AT = {"gauge_suction": (576, 345), "gauge_liquid": (576, 360)}
GROUND_WORDS_AT = {"compressor": (510, 420, True)}


@dataclass(frozen=True)
class Spot:
    """One place on the drawing: where, the stop it leads to, its number and name, what was read there and what is
    expected.

    reads: what a probe held there would say, 'place|quantity': the page writes its value at the spot while it lives.
    state: open, read, out, doubt (a reading there needs another look), impossible, quiet. The page marks the current
    spot by its class.
    """

    spot: str
    stop: str
    number: int
    name: str
    value: str = ""
    unit: str = ""
    detail: str = ""
    state: str = "open"
    reads: str = ""


@dataclass(frozen=True)
class Machine:
    """What is drawn: the kind of unit, furnace or air handler, mode, whether the outdoor coil and others are at fault
    (spot names).
    """

    kind: str
    furnace: bool
    heating: bool
    fault: frozenset[str] = frozenset()


def line_drawing(
    machine: Machine, spots: list[Spot], palette: dict[str, str], words: bool = True, label: str = ""
) -> SafeString:
    """The drawing. words: with names, values and expectations; without, small enough for a phone, the spots alone."""
    parts = [
        _house(machine, palette, words),
        _unit(machine, palette),
        _lines(machine, palette),
        _outside(machine, palette),
    ]
    parts += [_spot(machine, spot, palette, words) for spot in spots]
    box = f"0 0 {WIDTH} {HEIGHT}" if words else "28 150 796 266"
    css = "line-drawing" if words else "line-drawing small"
    title = escape(label or "Line drawing: house at left, outdoors at right")
    return mark_safe(f'<svg viewBox="{box}" class="{css}" role="group" aria-label="{title}">{"".join(parts)}</svg>')


def place_of(machine: Machine, spot: str) -> tuple[int, int]:
    """Where a spot is on this machine's drawing."""
    if machine.furnace and spot in FURNACE_AT:
        return FURNACE_AT[spot]
    if machine.kind == "ground_source" and spot in GROUND_AT:
        return GROUND_AT[spot]
    return AT[spot]


def _path(d: str, colour: str, weight: float, more: str = "") -> str:
    return f'<path d="{d}" fill="none" stroke="{colour}" stroke-width="{weight:g}"{more}/>'


def _text(
    x: float,
    y: float,
    words: str,
    colour: str,
    size: float,
    anchor: str = "middle",
    weight: int = 400,
    family: str = "",
) -> str:
    font = f' font-family="{family}"' if family else ""
    return f'<text x="{x:g}" y="{y:g}" fill="{colour}" font-size="{size:g}" text-anchor="{anchor}" font-weight="{weight}"{font}>{escape(words)}</text>'


def _house(machine: Machine, p: dict[str, str], words: bool) -> str:
    hatch = "".join(f"M{x} {GROUND} l-6 8 " for x in range(592, 826, 9))
    parts = [
        _path(f"M37 {GROUND} V206 L310 158 L583 206 V{GROUND}", p["ink"], DUCT),
        _path(f"M37 {GROUND} H826", p["ink"], DUCT),
        _path(hatch, p["soft"], DETAIL),
        # return and supply duct, grille and register as heavy dashes
        _path("M63 262 H173 M63 314 H173", p["ink"], DUCT),
        _path("M63 262 V314", p["ink"], 3.4, ' stroke-dasharray="5 3"'),
        _path("M423 262 H521 V240 M423 314 H553 V240", p["ink"], DUCT),
        _path("M521 238 H553", p["ink"], 3.4, ' stroke-dasharray="5 3"'),
        _arrows(((86, 276), (86, 301)), 52, p["soft"]),
        _arrows(((478, 276), (478, 301)), 40, p["soft"]),
    ]
    if words:
        parts += [
            _text(82, 226, "HOUSE", p["soft"], 11, "start", 700),
            _text(592, 226, "OUTDOORS", p["soft"], 11, "start", 700),
        ]
    return "".join(parts)


def _arrows(starts, length: int, colour: str) -> str:
    return _path("".join(f"M{x} {y} h{length} m-6 -4 l6 4 l-6 4 " for x, y in starts), colour, DETAIL)


def _hatched(x: int, y: int, width: int, height: int, colour: str) -> str:
    strokes = "".join(f"M{x} {at} l{width} -7 " for at in range(y + 9, y + height + 1, 7))
    return _path(strokes, colour, DETAIL)


def _unit(machine: Machine, p: dict[str, str]) -> str:
    def ink(spot: str) -> str:
        return p["ruddy"] if spot in machine.fault else p["ink"]

    parts = [
        _path("M173 245 H423 V334 H173 Z", p["ink"], UNIT),
        _path("M191 247 h16 v85 h-16 z", ink("filter"), UNIT if "filter" in machine.fault else DUCT),
    ]
    parts += (
        [_hatched(191, 247, 16, 85, p["ruddy"])]
        if "filter" in machine.fault
        else [_path("M195 252 v75 M199 252 v75 M203 252 v75", p["soft"], 0.8)]
    )
    if machine.furnace:
        parts += [
            _path("M330 245 V334", p["ink"], UNIT),
            _path("M296 256 v66 m8 -66 v66 m8 -66 v66", p["ink"], DUCT),
            _coil(377, p, ink("coil")),
            _wheel(258, p, ink("blower")),
        ]
    else:
        parts += [_coil(285, p, ink("coil")), _wheel(369, p, ink("blower"))]
    return "".join(parts)


def _coil(x: int, p: dict[str, str], colour: str) -> str:
    legs = f"M{x} 250 L{x - 25} 330 M{x} 250 L{x + 25} 330 M{x - 6} 250 h12"
    rings = "".join(
        f'<circle cx="{x + side * (4 + 5.2 * i):.1f}" cy="{256 + 17 * i}" r="2.6" fill="{p["sheet"]}" stroke="{colour}" stroke-width="1"/>'
        for side in (-1, 1)
        for i in range(5)
    )
    return _path(legs, colour, UNIT) + rings


def _round(x: int, radius: float, angle: float) -> str:
    return f"{x + radius * cos(angle):.1f} {288 + radius * sin(angle):.1f}"


def _wheel(x: int, p: dict[str, str], colour: str) -> str:
    blades = "".join(
        f"M{_round(x, 6, a)} Q{_round(x, 20, a + 0.25)} {_round(x, 27, a + 0.55)} "
        for a in (2 * pi * i / 9 for i in range(9))
    )
    return (
        f'<circle cx="{x}" cy="288" r="31" fill="none" stroke="{colour}" stroke-width="{UNIT}"/>'
        f'<circle cx="{x}" cy="288" r="5" fill="none" stroke="{colour}" stroke-width="1"/>'
        + _path(blades, colour, DETAIL)
    )


def _lines(machine: Machine, p: dict[str, str]) -> str:
    """Suction a double line, liquid a single one, the metering device a bow tie on the liquid line at the coil."""
    shift = 82 if machine.furnace else 0
    end = 480 if machine.kind == "ground_source" else 671
    left, right = 267 + shift, 307 + shift
    suction = f"M{right - 2} 332 V370 H{end} M{right + 2} 332 V366 H{end}"
    liquid = f"M{left} 332 V388 H{end}"
    parts = [_path(suction, p["ink"], DUCT), _path(liquid, p["ink"], UNIT)]
    parts.append(
        f'<path d="M{left - 6} 343 h12 l-12 14 h12 z" fill="{p["sheet"]}" stroke="{p["ink"]}" stroke-width="{DUCT}"/>'
    )
    if machine.kind != "ground_source" and not machine.heating:
        parts.append(
            f'<rect x="596" y="383" width="24" height="10" rx="5" fill="{p["sheet"]}" stroke="{p["ink"]}" stroke-width="{DUCT}"/>'
        )
    if machine.heating and machine.kind != "ground_source":
        parts.append(_text(598, 361, "hot gas", p["soft"], 11))
    return "".join(parts)


def _outside(machine: Machine, p: dict[str, str]) -> str:
    if machine.kind == "ground_source":
        compressor = f'<rect x="502" y="350" width="36" height="44" rx="12" fill="{p["sheet"]}" stroke="{p["ink"]}" stroke-width="{UNIT}"/>'
        loop = "M560 370 H690 V452 a12 12 0 0 0 24 0 V390 M560 390 H714 V390"
        return (
            _path("M480 342 H560 V400 H480 Z", p["ink"], UNIT)
            + compressor
            + _path(loop, p["ink"], UNIT)
            + _text(735, 448, "loop", p["soft"], 11, "start")
        )
    coil = p["ruddy"] if "condenser" in machine.fault else p["ink"]
    weight = UNIT if "condenser" in machine.fault else DETAIL
    fins = "".join(f"M675 {y} h16 M755 {y} h16 " for y in range(274, 392, 8))
    parts = [
        _path(f"M671 264 H775 V{GROUND - 8} H671 Z", p["ink"], UNIT),
        _path(fins, coil, weight),
        _path("M690 263 Q723 250 756 263", p["ink"], UNIT),
        _path("M700 258 H746", p["ink"], UNIT),
        _path("M706 246 v-16 m-4 6 l4 -6 l4 6 M740 246 v-16 m-4 6 l4 -6 l4 6", p["soft"], DETAIL),
        f'<rect x="705" y="346" width="36" height="44" rx="12" fill="{p["sheet"]}" stroke="{p["ink"]}" stroke-width="{UNIT}"/>',
    ]
    parts.append(_path("M731 346 V335", p["ink"], UNIT))  # the discharge
    if machine.kind == "heat_pump":
        parts.append(_path("M708 312 h30 v12 h-30 z M714 312 v12 M723 312 v12 M732 312 v12", p["ink"], DETAIL))
    return "".join(parts)


def _spot(machine: Machine, s: Spot, p: dict[str, str], words: bool) -> str:
    x, y = place_of(machine, s.spot)
    out, quiet = s.state in ("out", "doubt"), s.state == "quiet"
    colour = p["ruddy"] if out else p["soft"] if quiet else p["ink"]
    said = ", ".join(
        part
        for part in (f"{s.number} {s.name}".strip(), f"{s.value} {s.unit}".strip(), s.detail, _STATE_WORDS[s.state])
        if part
    )
    radius = (3.2 if quiet else 4.6) if words else (5.5 if quiet else 7.5)
    fill = colour if s.state in ("read", "out") and not words else p["sheet"]
    radius += 3 * (s.state == "doubt")
    parts = [f'<circle cx="{x}" cy="{y}" r="{22 if not words else 16}" fill="transparent"/>']
    parts.append(
        f'<circle class="ring" cx="{x}" cy="{y}" r="{radius + 5}" fill="none" stroke="{p["ruddy"]}" stroke-width="1.4" visibility="hidden"/>'
    )
    parts.append(
        f'<circle class="dot" cx="{x}" cy="{y}" r="{radius}" fill="{fill}" stroke="{colour}" stroke-width="{1.2 if quiet else 2}"/>'
    )
    if s.state == "read" and words:
        parts.append(f'<circle cx="{x}" cy="{y}" r="1.8" fill="{colour}"/>')
    if s.state == "doubt":
        parts.append(_text(x, y + 4, "?", colour, 11, weight=700))
    elif out and words:
        parts.append(f'<circle cx="{x}" cy="{y}" r="2.2" fill="{colour}"/>')
    if s.state == "impossible":
        parts.append(_path(f"M{x - 5} {y - 5} l10 10 M{x - 5} {y + 5} l10 -10", p["ink"], 1.4))
    label = (
        _words(s, x, y, p, machine.kind == "ground_source")
        if words and s.spot in WORDS_AT and not (quiet and not s.value)
        else ""
    )
    if words and s.spot in GAUGE_WORDS_AT and s.value:
        at = GAUGE_WORDS_AT[s.spot]
        line = " ".join(part for part in (s.name, s.value, s.unit) if part) + (f", {s.detail}" if s.detail else "")
        label = (
            f'<text x="{at[0]}" y="{at[1]}" fill="{p["ink"]}" font-size="12" text-anchor="end">{escape(line)}</text>'
        )
    named = f'id="spot-{s.spot}{"" if words else "-small"}" data-go="{escape(s.stop)}" aria-label="{escape(said)}"'
    lives = ""
    if words and s.reads:  # beside the spot, not in it: it is no part of what the spot is called
        lives = (
            f'<text class="live-at" x="{x}" y="{y - 9}" data-live-at="{escape(s.reads)}" fill="{p["ink"]}" stroke="{p["sheet"]}" '
            'stroke-width="3.5" paint-order="stroke" font-size="12" font-weight="700" text-anchor="middle" aria-hidden="true"></text>'
        )
    beside = f'<g class="spot-words" data-go="{escape(s.stop)}" aria-hidden="true">{label}</g>' if label else ""
    return f'{beside}<g class="spot" role="button" tabindex="0" {named}>{"".join(parts)}</g>{lives}'


_STATE_WORDS = {
    "open": "not read yet", "read": "read", "out": "out of range", "doubt": "look again", "impossible": "not possible",
    "quiet": "not needed now",
}  # fmt: skip


def _words(s: Spot, x: int, y: int, p: dict[str, str], ground: bool) -> str:
    """Number and name, value, expectation; a dotted leader from the words to the spot."""
    at, top, under = (GROUND_WORDS_AT.get(s.spot) if ground else None) or WORDS_AT[s.spot]
    colour = p["ruddy"] if s.state == "out" else p["ink"]
    has_value = bool(s.value)
    last = top + (46 if has_value else 30) if s.detail else top + (30 if has_value else 12)
    start = (at, top - 6) if under else (at, last + 6)
    parts = [
        f'<path d="M{start[0]} {start[1]} L{x} {y}" fill="none" stroke="{p["soft"]}" stroke-width="1" stroke-dasharray="1.5 3.5" stroke-linecap="round"/>',
        f'<rect x="{at - 54}" y="{top - 4}" width="108" height="54" fill="{p["sheet"]}" fill-opacity="0"/>',
        _text(at, top + 9, f"{s.number} {s.name}", p["ink"], 12.5, weight=600),
    ]
    if has_value:
        unit = (
            f'<tspan font-size="11.5" font-weight="400" fill="{p["soft"]}"> {escape(s.unit)}</tspan>' if s.unit else ""
        )
        parts.append(
            f'<text x="{at}" y="{top + 29}" fill="{colour}" font-size="19" font-weight="700" text-anchor="middle">{escape(s.value)}{unit}</text>'
        )
    if s.detail:
        parts.append(_text(at, top + (45 if has_value else 26), s.detail, p["soft"], 12))
    return "".join(parts)

"""Zones, grades, developments as they are said: as in the window (`wording/format.ts`)."""

ROMAN = ("0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X")
THIRDS = ("", "⅓", "⅔")
PARTS = {
    0.0: "", 1 / 6: "⅙", 1 / 4: "¼", 1 / 3: "⅓", 1 / 2: "½", 2 / 3: "⅔", 3 / 4: "¾", 5 / 6: "⅚",
}  # fmt: skip


def zone_name(zone: float) -> str:
    """A zone to the nearest third, e.g. VI⅓."""
    thirds = round(zone * 3.0)
    if thirds < 0:
        return "below 0"
    return "above X" if thirds > 30 else ROMAN[thirds // 3] + THIRDS[thirds % 3]


def with_part(value: float) -> str:
    """2½ and the like; two decimals where no such part is near."""
    whole = int(value + 0.005)
    for size, part in PARTS.items():
        if abs(value - whole - size) < 0.006:
            return part if whole == 0 and part else f"{whole}{part}"
    return f"{value:.2f}"


def development_name(n: float) -> str:
    """N, N−1⅓, N+½."""
    return "N" if abs(n) < 0.005 else f"N{'−' if n < 0 else '+'}{with_part(abs(n))}"


def grade_name(grade: float) -> str:
    """A grade from 00 (at -1) to 5, with its part."""
    if grade > -0.005:
        return with_part(grade)
    return "00" if grade < -0.995 else f"00{with_part(grade + 1.0)}"

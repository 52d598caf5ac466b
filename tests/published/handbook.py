"""Values from standards and handbooks, written down from memory of them unless said otherwise."""

# Filter factors of panchromatic film: (daylight, tungsten). Handbook tables, from memory.
# No. 58 is given as 6 to 8; the middle stands here.
FILTER_FACTORS = {
    "8": (2.0, 1.5),
    "11": (4.0, 4.0),
    "15": (2.5, 1.5),
    "21": (4.0, 2.0),
    "23a": (6.0, 3.0),
    "25": (8.0, 5.0),
    "29": (16.0, 8.0),
    "58": (7.0, 7.0),
    "47": (6.0, 12.0),
}

# Half-transmittance wavelengths of cutting filters, nm. Handbook tables, from memory.
HALF_TRANSMITTANCE = {"8": 490, "12": 515, "15": 527, "21": 550, "25": 600, "29": 620}
HALF_TRANSMITTANCE |= {"89b": 720, "87": 795, "87c": 850}

# Range of wavelengths, nm, in which the sensitivity of a kind of film ends. From memory.
SENSITIVITY_LIMIT = {
    "blue-sensitive": (485, 510),
    "orthochromatic": (575, 595),
    "panchromatic": (640, 670),
    "extended red": (700, 750),
    "infrared": (820, 900),
}

# log exposure range of paper grades: ANSI PH2.2, from memory.
GRADE_RANGES = {
    0: (1.40, 1.70),
    1: (1.15, 1.40),
    2: (0.95, 1.15),
    3: (0.80, 0.95),
    4: (0.65, 0.80),
    5: (0.50, 0.65),
}

# Density above base and fog: Zone I, and Zone VIII for a diffuse head. Zone-system handbooks,
# from memory.
ZONE_I = 0.10
ZONE_VIII = (1.25, 1.35)

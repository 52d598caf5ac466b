"""The demo job: the captures of a season at a hill pottery, marked, with a finished print."""

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass
from importlib import resources
from pathlib import Path

from .core.contact.process import ContactProcess, target_inks
from .core.enlarger.shapes import Foliage, Sides, Sky, ZoneLimit
from .core.recipe import (
    CaptureSettings,
    Card,
    DevelopmentSettings,
    Disc,
    FilmSettings,
    Inscription,
    LightSettings,
    LocalContrast,
    MountSettings,
    PaperSettings,
    Pass,
    Recipe,
)
from .core.recipe.drawings import Sheets
from .core.settings import Settings
from .errors import SilvrinError
from .files.delivery import Output, Size
from .files.delivery.output import Contact
from .instruments.contact_frame import ContactFrame
from .shelf import shipped, starting_prints
from .store import contact_processes, orders, prints, rolls
from .store.library import Library
from .store.output_sets import shipped_sets
from .store.sheets import keep_sheets
from .web.delivery_orders import Ordered, title_of

PRINTS = {
    "Bottle kiln": (
        "Dark sky",
        Recipe(
            light=LightSettings(temperature=5500, lens_filter="29"),
            film=FilmSettings(stock="larch-100"),
            development=DevelopmentSettings(n=0.25),
            paper=PaperSettings(grade=2.5),
        ),
    ),
    "Kiln chimney": (
        "Against the light",
        Recipe(
            light=LightSettings(lens_filter="15", haze=-0.3),
            film=FilmSettings(stock="linden-50", film_format="6 × 7 cm"),
            development=DevelopmentSettings(
                developer="compensating",
                mid_scale=LocalContrast(strength=0.5),
                fine=LocalContrast(strength=0.3),
            ),
            paper=PaperSettings(grade=2.5),
        ),
    ),
    "Clay pond": (
        "Infrared",
        Recipe(
            light=LightSettings(temperature=5000, lens_filter="89b"),
            film=FilmSettings(stock="juniper-200"),
            paper=PaperSettings(grade=2.5),
        ),
    ),
    "Clay pond, infrared": (
        "Converted camera",
        Recipe(
            capture=CaptureSettings(infrared=True),
            film=FilmSettings(stock="spruce-100"),
            paper=PaperSettings(grade=3),
        ),
    ),
    "Terracotta head, eye": (
        "Window light",
        Recipe(
            light=LightSettings(temperature=6500, lens_filter="11"),
            paper=PaperSettings(grade=2.5),
        ),
    ),
    "Kiln in the last sun": (
        "Worked by hand",
        Recipe(
            light=LightSettings(temperature=4000, lens_filter="15"),
            film=FilmSettings(stock="alder-125", film_format="4 × 5 in", placement=1.0),
            development=DevelopmentSettings(n=0.25),
            paper=PaperSettings(grade=2.75),
        ),
    ),
}


@dataclass(frozen=True)
class Begun:
    """A print that began as a starting print, with what was proposed for its frame."""

    start: str
    name: str
    placement: float  # stops
    n: float
    time: float  # s
    grade: float
    black_at: float
    smoothing: float = 0.0

    def recipe(self) -> Recipe:
        """Of the print, before anything else was done."""
        look = starting_prints()[self.start].on(Recipe())
        stations: dict[str, Settings] = {
            "light": look.light.model_copy(update={"chroma_smoothing": self.smoothing}),
            "film": look.film.model_copy(update={"placement": self.placement}),
            "development": look.development.model_copy(update={"n": self.n}),
            "enlarger": look.enlarger.model_copy(update={"time": self.time}),
            "paper": look.paper.model_copy(update={"grade": self.grade, "black_at": self.black_at}),
        }
        if self.name in HUNG:
            toning, stations["mount"] = HUNG[self.name]
            stations["toner"] = shipped().tonings[toning].toner
        return look.model_copy(update=stations)


BEGUN = {
    "Glaze shelf": Begun("crisp", "Set off", 5 / 6, 0.0, 13.5, 2.5, 0.996),
    "Wheel": Begun("rugged", "Rugged", 23 / 12, -0.5, 16.8, 2.5, 1.0),
    "Pale plate": Begun("pale", "Pale", -1.5, 2 / 3, 19.3, 3.25, 0.671),
    "Black raku": Begun("dark", "Low key", 2.0, 2 / 3, 15.6, 5.0, 1.0, 0.5),
    "Drying loft": Begun("tamed", "Shadows opened", 1.75, -2 / 3, 18.9, 1.5, 0.993),
    "Bottle kiln": Begun("white-leaves", "White leaves", -5 / 12, 2 / 3, 16.2, 3.5, 1.0, 1.0),
}
EASEL = {f"border_{side}": 6.35 for side in ("left", "right", "top", "bottom")}
SIGNED = Inscription(text="M. Ashdown", font="hand", height=8.0, tone=30)
NUMBER = Inscription(what="edition", font="serif", height=5.0, at="left", tone=30)
ORDERED = "Kiln in the last sun"  # whose print is delivered
PROCESS = "Iron salts on rag"
# Prints that are toned and mounted, as for the exhibition
HUNG: dict[str, tuple[str, MountSettings]] = {
    "Rugged": (
        "walnut",
        MountSettings(
            size=400, **EASEL, mat="weighted", mat_sides=80, key_line=0.4, key_gap=1.0,
            inscriptions=tuple(i.model_copy(update={"on": "mat"}) for i in (SIGNED, NUMBER)),
            edition_number=2, edition_of=9, sharpen=0.6, sharpen_radius=0.12,
        ),
    ),
    "Pale": (
        "tea",
        MountSettings(
            size=240, border_left=30, border_right=30, border_top=30, border_bottom=42,
            inscriptions=(SIGNED, NUMBER), edition_number=5, edition_of=12,
        ),
    ),
    "Shadows opened": (
        "brown-lights",
        MountSettings(
            size=300, border_left=24, border_right=24, border_top=24, border_bottom=34,
            edge="filed", edge_width=5, inscriptions=(SIGNED,),
        ),
    ),
    "Set off": (
        "short-selenium",
        MountSettings(
            size=300, edge="rebate", edge_width=9, border_left=8, border_right=8, border_top=8,
            border_bottom=8, mat="equal", mat_sides=70, board="#dedad0", undermat=4,
        ),
    ),
}  # fmt: skip
# The printing maps of prints that were worked by hand
MAPS: dict[str, tuple[Pass, ...]] = {
    "Terracotta head, eye": (
        Pass(
            name="face", stops=-0.38,
            shapes=(Disc(x=625, y=1200, width=170, height=340, angle=6),),
        ),
        Pass(
            name="eyes", stops=-0.2, fine=0.3,
            shapes=(Disc(x=580, y=1045, width=170, height=70, angle=4),),
        ),
        Pass(
            name="background", stops=0.65, held=1.0, opposite=True, soften=0.3,
            shapes=(
                Disc(x=800, y=880, width=480, height=480, soft=0.2),
                Disc(x=700, y=1400, width=330, height=420, soft=0.2),
                Disc(x=900, y=1790, width=430, height=170, angle=12, soft=0.5),
            ),
        ),
        Pass(name="table", stops=0.4, shapes=(Card(x=800, y=2400, to_x=800, to_y=1950),)),
        Pass(
            name="hair", stops=-0.25,
            shapes=(Disc(x=850, y=680, width=330, height=190, angle=8),),
        ),
    ),
    "Kiln in the last sun": (
        Pass(
            name="sky", stops=0.6, grade=1.5,
            shapes=(Sky(), Card(x=1200, y=430, to_x=1200, to_y=860, how="keep")),
        ),
        Pass(
            name="sky, the very top", stops=0.45,
            shapes=(Sky(), Card(x=1200, y=0, to_x=1200, to_y=360, how="keep")),
        ),
        Pass(
            name="doorway", stops=-1.1, zones=ZoneLimit(first=0, last=3.4, soft=1.2),
            shapes=(Disc(x=1458, y=1120, width=120, height=190, soft=0.5),),
        ),
        Pass(
            name="bricks in the sun", stops=-0.15, mid_scale=0.35,
            shapes=(Disc(x=1330, y=740, width=240, height=440, angle=8),),
        ),
        Pass(
            name="path", stops=-0.4, shapes=(Disc(x=1390, y=1400, width=520, height=170),)
        ),
        Pass(
            name="leaves", stops=-0.2,
            shapes=(Foliage(), Card(x=1200, y=900, to_x=1200, to_y=1050, how="keep")),
        ),
        Pass(name="edges", stops=0.45, shapes=(Sides(width=24, top=0.2),)),
    ),
}  # fmt: skip
MARKS: dict[str, rolls.Mark] = {
    "Terracotta head, ear": "dot",
    "Terracotta head, wall": "cross",
    "Glaze shelf": "dot",
}


def captures_folder() -> Path:
    """Where the demo captures are: in a checkout, or in the package that holds them."""
    here = Path(__file__).parents[1] / "demo" / "captures"
    if here.is_dir():
        return here
    try:
        return Path(str(resources.files("silvrin_demo"))) / "captures"
    except ModuleNotFoundError as error:
        raise SilvrinError(
            "The demo's captures are a package of their own that is not installed. Install "
            "silvrin-demo, or silvrin[demo], and start this again."
        ) from error


def _titled(path: Path) -> str:
    return path.stem.lstrip("0123456789 ").capitalize()


def demo_capture(title: str) -> Path:
    """The file of a demo capture, by its title in any case; raises SilvrinError for none."""
    for path in captures_folder().glob("*/*.*"):
        if _titled(path).lower() == title.lower():
            return path
    raise SilvrinError(f"There is no demo capture called {title!r}.")


def _worked(connection: sqlite3.Connection, title: str, recipe: Recipe) -> Recipe:
    """The recipe of a demo print with its printing map, whose sheets are kept."""
    sheets = Sheets()
    passes = sheets.passes(MAPS.get(title, ()))
    keep_sheets(connection, sheets.texts.values())
    enlarger = recipe.enlarger.model_copy(update={"passes": passes})
    return recipe.model_copy(update={"enlarger": enlarger})


def fill(library: Library, progress: Callable[[float], None] = lambda share: None) -> None:
    """Fill an empty library with the demo job; one that holds a roll is left as it is."""
    if rolls.all_rolls(library.database.read):
        return
    folders = sorted(folder for folder in captures_folder().iterdir() if folder.is_dir())
    files = [file for folder in folders for file in sorted(folder.iterdir())]
    shown = []
    for folder in folders:
        with library.database.write() as connection:
            roll = rolls.add_roll(connection, folder.name.lstrip("0123456789 "))
        for file in sorted(folder.iterdir()):
            title, frame = _titled(file), library.take_in_file(file, roll).frame
            shown.append((title, frame))
            progress(len(shown) / len(files))
            with library.database.write() as connection:
                if title in PRINTS:
                    rolls.mark_frame(connection, frame, "ring")
                    name, recipe = PRINTS[title]
                    prints.add_print(connection, frame, name, _worked(connection, title, recipe))
                elif title in MARKS:
                    rolls.mark_frame(connection, frame, MARKS[title])
    with library.database.write() as connection:
        for title, frame in shown:
            if title in BEGUN:
                first = rolls.frame(connection, frame).chosen
                begun = BEGUN[title]
                prints.add_print(connection, frame, begun.name, begun.recipe())
                if first is not None:
                    prints.choose_print(connection, first)
        _order(connection, rolls.frame(connection, dict(shown)[ORDERED]))


def _order(connection: sqlite3.Connection, frame: rolls.Frame) -> None:
    """What is delivered of a frame's print: the outputs of the shipped sets, and a negative for
    contact printing by a process that was measured in two rounds. The server makes them."""
    printer, process = ContactFrame(), None
    for seed in range(2):
        readings = printer.read(target_inks(31, process), seed)
        process = process.refined(readings) if process else ContactProcess(readings, 1, PROCESS)
    assert process is not None and frame.chosen is not None
    kept = contact_processes.keep(connection, process, None)
    negative = Output(
        name="Contact negative", format="tiff", holds="contact", contact=Contact(process=kept.id),
        size=Size(by="mm", value=240), template="{title} - {output}",
    )  # fmt: skip
    of = prints.get_print(connection, frame.chosen)
    outputs = [output for each in shipped_sets() for output in each.outputs]
    for output in (*outputs, negative):
        ordered = Ordered(
            print_id=of.id, change=of.head, title=title_of(frame, of.name), batch="demo",
            output=output,
        )  # fmt: skip
        orders.add(connection, "delivery", ordered.model_dump_json())

"""The stations of the light path, in their order: here a new one is entered.

`Stations` holds the settings of each; `TONES` are those that take the density of the negative to
the light of the finished print, place by place.
"""

from pydantic import BaseModel

from .capture.settings import CaptureSettings
from .development.settings import DevelopmentSettings
from .enlarger.projection import Projection
from .enlarger.settings import EnlargerSettings
from .film.settings import FilmSettings
from .light.settings import LightSettings
from .mount.settings import MountSettings
from .paper.printing import Finish, Print
from .paper.settings import PaperSettings
from .settings import Settings
from .station import ToneStation
from .toner.settings import TonerSettings
from .toner.toning import Toning


class Stations(BaseModel):
    """The settings of every station."""

    capture: CaptureSettings = CaptureSettings()
    light: LightSettings = LightSettings()
    film: FilmSettings = FilmSettings()
    development: DevelopmentSettings = DevelopmentSettings()
    enlarger: EnlargerSettings = EnlargerSettings()
    paper: PaperSettings = PaperSettings()
    toner: TonerSettings = TonerSettings()
    mount: MountSettings = MountSettings()


TONES: tuple[type[ToneStation], ...] = (Projection, Print, Finish, Toning)

SETTINGS: dict[str, type[Settings]] = {
    name: field.annotation  # type: ignore[misc]
    for name, field in Stations.model_fields.items()
}

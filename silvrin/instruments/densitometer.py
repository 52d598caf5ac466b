"""What a densitometer is to Silvrin: the one class that a driver fills in.

A driver is a subclass of `Densitometer` that is entered in `silvrin.instruments.DENSITOMETERS`. It
talks to its device by whatever way that has (a serial port, USB, a program beside it) and does
nothing else: what is asked for next, repeated or taken back, and what follows from the readings,
is not its concern. Its methods are called one at a time, from a thread that may wait.

A driver for a device on a serial port is as long as this::

    class OnSerialPort(Densitometer):
        id, name = "serial", "Densitometer on the serial port"
        about = "Reflection and transmission, visual."

        def zero(self, wedge, patch):
            self._base = self._density()   # lies under the head now
            return Reading(self._base)

        def read(self, wedge, patch):
            return Reading(self._density() - self._base)

        def _density(self):
            ...                            # asks the device; raises InstrumentError
"""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

What = Literal["film", "paper", "toner", "contact"]


@dataclass(frozen=True)
class Wedge:
    """A wedge that can be laid under the head."""

    id: str
    name: str
    what: What  # that it was printed on, or toned in; contact: a target of that
    steps: int
    step: float  # log10 exposure between steps; of a contact target none
    grade: float | None = None  # of a paper


@dataclass(frozen=True)
class Reading:
    """One reading: visual density, and CIELAB where the instrument tells colour."""

    density: float
    lab: tuple[float, float, float] | None = None


class Densitometer(ABC):
    """A densitometer; raises InstrumentError, in words, when the device does not answer."""

    id: str
    name: str
    about: str

    def wedges(self) -> tuple[Wedge, ...]:
        """The wedges there are to choose from; none of a real one, whose user lays them there."""
        return ()

    def lay(self, inks: Sequence[float]) -> None:
        """Told before a contact target is read: how much ink each patch of its negative has. A
        real one need not know."""
        return

    @abstractmethod
    def zero(self, wedge: str | None, patch: int) -> Reading:
        """Take what lies under the head, a base, for 0, and give its own density, against the
        instrument's calibration. `wedge` and `patch` say which; a real one need not know."""

    @abstractmethod
    def read(self, wedge: str | None, patch: int) -> Reading:
        """Density of what lies under the head, above what was zeroed; CIELAB as it is."""

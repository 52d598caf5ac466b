"""One tree of errors. Each message says what was given, what is allowed and what to do."""


class SilvrinError(Exception):
    """Anything a user can put right; the message is shown to them as it is."""

    status = 400
    title = "That did not work"


class BadCapture(SilvrinError):
    """A file that cannot be taken in as a capture."""

    status = 422
    title = "Not a capture Silvrin can read"


class NotAnImage(BadCapture):
    """A file that is no picture at all."""


class BadRecipe(SilvrinError):
    """A recipe with unknown fields or values outside their range."""

    status = 422
    title = "The recipe does not hold"


class BadItem(SilvrinError):
    """An item of the shelf, or a measurement it is made from, that does not hold."""

    status = 422
    title = "That cannot be put on the shelf"


class DeliveredPrint(SilvrinError):
    """A file that Silvrin delivered, of a capture that is not there."""

    status = 422
    title = "A delivered print"


class NotFound(SilvrinError):
    """Something was named that is not there."""

    status = 404
    title = "Not found"


class BadInk(SilvrinError):
    """A picture that is no signature."""

    status = 422
    title = "That is no signature"


class InstrumentError(SilvrinError):
    """An instrument that does not answer, or cannot."""

    status = 409
    title = "The densitometer"


class BadReference(SilvrinError):
    """A picture that no print can be matched to."""

    status = 422
    title = "No print can be matched to that"


class BadLines(SilvrinError):
    """Lines that do not tell how a picture should stand."""

    status = 422
    title = "These lines do not settle it"


class OutsidePicture(SilvrinError):
    """A place that the picture does not have."""

    status = 422
    title = "Outside the picture"


class TooHigh(SilvrinError):
    """A number beyond all that is counted here."""

    status = 422
    title = "No such number"


class Conflict(SilvrinError):
    """The thing was changed elsewhere since it was read."""

    status = 409
    title = "Changed in another window"


class UsedBefore(SilvrinError):
    """Something is to go that an earlier state of a print needs; it can be said to be known."""

    status = 409
    title = "An earlier state needs it"


class TooLarge(SilvrinError):
    """More data than is accepted."""

    status = 413
    title = "Too large"


class Forbidden(SilvrinError):
    """A request from somewhere that has no business here."""

    status = 403
    title = "Not from here"


class DiskFull(SilvrinError):
    """The disk, or the share of it that may be used, is full."""

    status = 507
    title = "No room left on the disk"


class Dropped(SilvrinError):
    """Work that nobody waits for any more was given up."""

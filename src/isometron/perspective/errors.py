"""The family of errors whose message is the sentence the person reads."""


class IsometronError(Exception):
    """Something the person can put right; the message says what is wrong and what to change."""


class LengthError(IsometronError):
    """A typed measure cannot be read."""


class SheetError(IsometronError):
    """A sheet format that no paper has."""


class EyeError(IsometronError):
    """An eye that cannot see: a number out of range or not a number."""


class SetupError(IsometronError):
    """The hand's set-up contradicts itself: no station point can give it."""


class VolumeError(IsometronError):
    """A volume without body, or with measures out of range."""


class IntentionError(VolumeError):
    """What parts were meant to be to each other cannot all be so."""


class CopyError(VolumeError):
    """A copy cannot be changed otherwise than with its source."""


class StoppedError(IsometronError):
    """Work that the person has stopped."""


class FileError(IsometronError):
    """A file that cannot be read or written."""

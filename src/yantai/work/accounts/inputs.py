"""What is sent to sign in and to set what is one's own."""

from __future__ import annotations

from yantai.core.rights import Right
from yantai.core.speaking import EnergyUnit, MassUnit, TemperatureUnit
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Text


class Credentials(Payload):
    """A sign-in."""

    email: Text
    password: Text


class PersonInput(Payload):
    """How figures are shown to one person; storage stays metric."""

    mass_unit: MassUnit = MassUnit.GRAM
    temperature_unit: TemperatureUnit = TemperatureUnit.CELSIUS
    energy_unit: EnergyUnit = EnergyUnit.KCAL


class PairingInput(Payload):
    """Whose device is paired, the address by which it reaches this server, and what it may do: shop, or cook, weigh
    and fill."""

    helper: Text
    address: Text
    rights: list[Right]


class FeedInput(Payload):
    """The address by which the page that asks reaches this server."""

    address: Text


class CodeInput(Payload):
    """A code that was shown, and what the phone that it is typed on is called."""

    code: Text
    device: Text = ""

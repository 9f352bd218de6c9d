"""The whole shelf that ships."""

from functools import cache

from powertrain.documents.shelf import Shelf
from powertrain.shelf.controllers import controllers
from powertrain.shelf.conversions import (
    chargers,
    contactors,
    converters,
    fuses,
    gearboxes,
)
from powertrain.shelf.motors import motors
from powertrain.shelf.packs import cells, packs
from powertrain.shelf.propellers import propellers
from powertrain.shelf.rolling import connectors, strands, teeth, wheels, wires


@cache
def shipped_shelf() -> Shelf:
    """Return the shelf of the Quillmere workshop: invented makers, parts by the rules here."""
    return Shelf(
        format="young-torrent.shelf/1",
        name="Quillmere workshop shelf",
        motors=list(motors()),
        controllers=list(controllers()),
        packs=list(packs()),
        cells=list(cells()),
        wheels=list(wheels()),
        propellers=list(propellers()),
        teeth=list(teeth()),
        strands=list(strands()),
        wires=list(wires()),
        connectors=list(connectors()),
        gearboxes=list(gearboxes()),
        contactors=list(contactors()),
        fuses=list(fuses()),
        converters=list(converters()),
        chargers=list(chargers()),
    )

"""What a ride takes."""

from pydantic import Field

from common.schemas import StrictSchema
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.run import Ride

MOST_DRAWS = 256


class RideRequest(StrictSchema):
    """A build, the course it is ridden on, and how many draws its bands are of."""

    document: BuildDocument
    ride: Ride
    draws: int = Field(0, ge=0, le=MOST_DRAWS)

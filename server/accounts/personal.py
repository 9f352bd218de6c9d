"""Personal mode: on loopback there is one owner, signed in without a password.

Every query filters by owner all the same, so that accounts can follow without touching one.
"""

from collections.abc import Callable
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest, HttpResponse
from django.utils.functional import SimpleLazyObject

OWNER = "owner"


def the_owner() -> User:
    """Return the one owner, made on first need."""
    return User.objects.get_or_create(username=OWNER)[0]


def in_turn(user: Any) -> None:
    """Wait until no other request writes what is told apart by names of this user's own.

    Holds until the end of the transaction that it is called in.
    """
    User.objects.select_for_update().get(pk=user.pk)


def sign_in_the_owner(
    answer: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Set ``request.user``, looked up only when asked for: solving needs no database."""

    def signed_in(request: HttpRequest) -> HttpResponse:
        request.user = SimpleLazyObject(the_owner)  # type: ignore[assignment]
        return answer(request)

    return signed_in

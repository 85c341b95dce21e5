"""Who may sign in: made, given another password, and shut out by the owner; everyone may change their own password."""

from dataclasses import dataclass
from datetime import datetime

from django.contrib.auth import get_user_model, password_validation
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest

from valley_web.common.errors import Conflict, Forbidden, Gone, Unfit


@dataclass(frozen=True)
class Person:
    """``owner`` may make and shut out others; an editor may do everything else."""

    name: str
    owner: bool
    active: bool
    last_here: datetime | None


def is_owner(request: HttpRequest) -> bool:
    """Whoever sits at this machine where no sign-in is asked for, and whoever signed in as an owner."""
    user = request.user
    return bool(user.is_superuser) if user.is_authenticated else True  # the wall has let nobody else through


def require_owner(request: HttpRequest) -> None:
    if not is_owner(request):
        raise Forbidden("Only the owner can do this.", "Ask whoever looks after this Valley.")


def require_signed_in(request: HttpRequest) -> User:
    if not isinstance(request.user, User):
        raise Forbidden("You are not signed in here.", "At this machine no password is asked for.")
    return request.user


def list_people() -> list[Person]:
    users = get_user_model().objects.order_by("-is_superuser", "username")
    return [Person(u.get_username(), u.is_superuser, u.is_active, u.last_login) for u in users]


def _check(password: str, user: User) -> None:
    try:
        password_validation.validate_password(password, user)
    except ValidationError as error:
        raise Unfit("This password is too easy to guess.", " ".join(error.messages), kind="password") from error


def add_person(name: str, password: str, *, owner: bool) -> Person:
    """A new account. The first is always an owner's, so that nobody locks everyone out."""
    name = " ".join(name.split())
    users = get_user_model().objects
    user = get_user_model()(username=name, is_superuser=owner or not users.filter(is_superuser=True, is_active=True).exists())
    try:
        user.clean_fields(exclude=["password"])
    except ValidationError as error:
        raise Unfit(" ".join(error.messages), "Letters, digits and @ . + - _ make a name.", kind="name") from error
    _check(password, user)
    user.set_password(password)
    try:
        with transaction.atomic():
            user.save()
    except IntegrityError as error:
        raise Conflict(f"There is a “{name}” already.", "Choose another name.", kind="taken") from error
    return Person(user.get_username(), user.is_superuser, True, None)


def shut_out(name: str) -> None:
    """No sign-in any more, and out of every session at once; what they did stays told. The last owner stays."""
    with transaction.atomic():
        user = _find(name)
        others = get_user_model().objects.filter(is_superuser=True, is_active=True).exclude(pk=user.pk)
        if user.is_superuser and user.is_active and not others.exists() and get_user_model().objects.filter(is_active=True).exclude(pk=user.pk).exists():
            raise Conflict(f"“{name}” is the only owner.", "Make another owner first.", kind="last owner")
        user.is_active = False
        user.save(update_fields=["is_active"])
        _end_sessions(user)


def let_in(name: str) -> None:
    """An account that was shut out opens again."""
    user = _find(name)
    user.is_active = True
    user.save(update_fields=["is_active"])


def set_password(name: str, password: str, *, old: str | None) -> None:
    """A new password: with the old one by whoever it belongs to, without it (None) by the owner. Every session of theirs ends."""
    with transaction.atomic():
        user = _find(name)
        if old is not None and not user.check_password(old):
            raise Unfit("The old password is not right.", "Type the one you sign in with now.", kind="password")
        _check(password, user)
        user.set_password(password)
        user.save(update_fields=["password"])
        _end_sessions(user)


def require_known(name: str) -> None:
    if not get_user_model().objects.filter(username=name).exists():
        raise Gone(f"There is no “{name}” here.", "Open the page again.")


def _find(name: str) -> User:
    user = get_user_model().objects.select_for_update().filter(username=name).first()
    if user is None:
        raise Gone(f"There is no “{name}” here.", "Open the page again.")
    return user


def _end_sessions(user: User) -> None:
    for session in Session.objects.all():
        if str(session.get_decoded().get("_auth_user_id", "")) == str(user.pk):
            session.delete()

"""Sending links by mail, where whoever runs the bench has set a mail server
(docs/operations.md).
"""

from __future__ import annotations

from smtplib import SMTPException

from django.conf import settings
from django.core.mail import send_mail

from glenhail.server.common.errors import ActionError

WORDS = {
    "invite": (
        "You are invited to a bench",
        "You can join the bench “{bench}” here, within seven days:",
    ),
    "reset": (
        "A new password",
        "You can set a new password for the bench “{bench}” here, within a day:",
    ),
}


def send_link(kind: str, bench: str, to: str, address: str) -> None:
    """Send somebody a link.

    Raises
    ------
    ActionError
        If this bench sends no mail, or the mail server takes none.
    """
    if not settings.EMAIL_HOST:
        raise ActionError(
            "This bench sends no mail. Leave the address out and hand the link over yourself."
        )
    subject, words = WORDS[kind]
    try:
        send_mail(
            subject,
            f"{words.format(bench=bench)}\n\n{address}\n",
            settings.DEFAULT_FROM_EMAIL,
            [to],
        )
    except (SMTPException, OSError) as error:
        raise ActionError(
            "The mail server did not take the mail. Leave the address out and hand the link over."
        ) from error

"""Letters by mail: links into a shop are sent where a mail server is configured, and shown to the lead elsewhere."""

import logging
from smtplib import SMTPException

from django.conf import settings
from django.core.mail import send_mail
from django.template.loader import render_to_string

SUBJECTS = {"join": "You are asked into {shop}", "password": "Your new password for {shop}"}
log = logging.getLogger(__name__)


def are_sent() -> bool:
    """Whether this installation has a mail server."""
    return bool(settings.EMAIL_HOST)


def send(to: str, letter: str, shop, address: str, lasts: str) -> bool:
    """Send one of the letters with a link in it; whether the mail server took it. lasts: how long the link opens, in
    words.
    """
    if not (to and are_sent()):
        return False
    text = render_to_string(f"accounts/letters/{letter}.txt", {"shop": shop, "address": address, "lasts": lasts})
    subject = " ".join(SUBJECTS[letter].format(shop=shop).split())
    try:
        return bool(send_mail(subject, text, None, [to]))
    except (SMTPException, OSError):
        log.exception("A letter could not be sent: is RUDDY_MAIL_HOST right, and does it answer?")
        return False

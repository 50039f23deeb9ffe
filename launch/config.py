"""The one configuration file of an installation: what may be in it, what each line means, what is taken without it."""

import difflib
import os
import tomllib
from collections.abc import Collection
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from launch.fault import LaunchFault

USUAL = Path("/etc/ruddy-draft/ruddy.toml")


@dataclass(frozen=True)
class Line:
    """One setting: its usual value, which says its type too, and what it means."""

    usual: Any
    means: str
    least: int = 0


LINES: dict[str, dict[str, Line]] = {
    "": {
        "hosts": Line(["draft.example"], "the names under which people reach it; the first is in links that are sent"),
        "folder": Line("/var/lib/ruddy-draft", "data, photos and secrets; for this installation alone"),
        "host_pages": Line("", "address of the pages for the host's own staff, such as keepers-7f3a/; empty for none"),
    },
    "web": {
        "port": Line(8780, "on this machine; the proxy that speaks TLS asks there", least=1),
        "workers": Line(0, "processes; 0: by the processor's cores"),
        "threads": Line(4, "of each process", least=1),
    },
    "proxy": {
        "addresses": Line(["127.0.0.1"], "whose word is taken on where a request comes from"),
        "certificate": Line("", "the certificate's file, with its chain; for the proxy's configuration"),
        "key": Line("", "the file of its key"),
    },
    "database": {
        "host": Line("", "of a MariaDB that is there already; empty: one of its own is started"),
        "port": Line(23790, "of either", least=1),
        "name": Line("ruddy", "of the database, where it is there already"),
        "user": Line("ruddy", "who uses it"),
        "password_file": Line("", "a file with the password, readable by this user alone; of its own one: made"),
        "memory_percent": Line(25, "of the machine's memory for its own one", least=1),
    },
    "mail": {
        "host": Line("", "the mail server; empty: links are shown instead of sent"),
        "port": Line(587, "of the mail server", least=1),
        "user": Line("", "who sends"),
        "password_file": Line("", "a file with the password"),
        "sender": Line("", "the address that letters come from"),
        "tls": Line(True, "whether STARTTLS is used"),
    },
    "photos": {
        "bucket": Line("", "a bucket that speaks S3, for more than one web machine; empty: photos lie in the folder"),
        "endpoint": Line("", "the store's address, such as https://store.example; empty: by the region"),
        "region": Line("", "of the store, where it has any"),
        "key_id": Line("", "the key that may read, write, list and delete there"),
        "secret_file": Line("", "a file with the key's secret, readable by this user alone"),
    },
    "backup": {
        "folder": Line("", "where backups are kept; empty: none are made by themselves"),
        "every_hours": Line(24, "how often", least=1),
        "keep_days": Line(7, "of so many days the last one of each is kept"),
        "keep_weeks": Line(5, "of so many weeks"),
        "keep_months": Line(12, "of so many months"),
        "passphrase_file": Line("", "a file with the passphrase they are encrypted with; empty: they are not"),
    },
    "monitor": {
        "token_file": Line("", "a file with the token that a monitor shows for the counters; empty: none are shown"),
    },
}


@dataclass(frozen=True)
class Config:
    """What the file says, or the usual. Asked by section and name: `config.of("web", "port")`."""

    path: Path
    said: dict[str, dict[str, Any]] = field(default_factory=dict)

    def of(self, section: str, name: str) -> Any:
        """A setting."""
        return self.said.get(section, {}).get(name, LINES[section][name].usual)

    def secret(self, section: str, name: str) -> str:
        """What the file of a secret holds; '' where none is named."""
        path = self.of(section, name)
        if not path:
            return ""
        try:
            if os.stat(path).st_mode & 0o007:
                raise LaunchFault(f"{path} ({section}.{name}) can be read by everybody: chmod 600 {path}")
            return Path(path).read_text().strip()
        except OSError as error:
            raise LaunchFault(f"{path} ({section}.{name}) cannot be read: {error.strerror}.") from error


def read(path: Path) -> Config:
    """The configuration in a file; raises LaunchFault naming line or setting, and the likely fix."""
    try:
        text = path.read_bytes().decode()
    except FileNotFoundError as error:
        raise LaunchFault(
            f"There is no configuration {path}: ./ruddy serve --example > {path}, and set its hosts."
        ) from error
    except (OSError, UnicodeDecodeError) as error:
        raise LaunchFault(f"{path} cannot be read: {getattr(error, 'strerror', 'it is no UTF-8 text')}.") from error
    try:
        found = tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        raise LaunchFault(f"{path} is no TOML: {error}. Text goes in quotes, lists in brackets.") from error
    said: dict[str, dict[str, Any]] = {"": {}}
    for name, value in found.items():
        if isinstance(value, dict):
            _known(path, name, "", [section for section in LINES if section])
            said[name] = {key: _checked(path, name, key, one) for key, one in value.items()}
        else:
            said[""][name] = _checked(path, "", name, value)
    if not said[""].get("hosts"):
        raise LaunchFault(f'{path}: hosts is missing. Name what people type: hosts = ["draft.example"]')
    return Config(path, said)


def _known(path: Path, name: str, section: str, names: Collection[str]) -> None:
    if name not in names:
        near = difflib.get_close_matches(name, list(names), 1)
        meant = f" Is {near[0]} meant?" if near else f" There are: {', '.join(names)}."
        raise LaunchFault(f"{path}: there is no setting {_full(section, name)}.{meant}")


def _checked(path: Path, section: str, name: str, value: Any) -> Any:
    _known(path, name, section, list(LINES[section]))
    line = LINES[section][name]
    wanted = type(line.usual)
    if type(value) is not wanted or (wanted is list and not all(isinstance(one, str) for one in value)):
        kinds = {str: "text in quotes", int: "a whole number", bool: "true or false", list: "a list of texts"}
        raise LaunchFault(f"{path}: {_full(section, name)} is {value!r}; it wants {kinds[wanted]}.")
    if wanted is int and value < line.least:
        raise LaunchFault(f"{path}: {_full(section, name)} is {value}; it is at least {line.least}.")
    if name == "port" and value > 65535:
        raise LaunchFault(f"{path}: {_full(section, name)} is {value}; a port is at most 65535.")
    return value


def _full(section: str, name: str) -> str:
    return f"{section}.{name}" if section else name


def example() -> str:
    """A configuration with every setting and its usual value; what is not changed may be left out."""
    parts = []
    for section, lines in LINES.items():
        told = [f"# {line.means}\n{name} = {_toml(line.usual)}" for name, line in lines.items()]
        parts.append((f"[{section}]\n" if section else "") + "\n".join(told))
    return "# Ruddy Draft. A line that is left out has the value shown here; hosts must be set.\n\n" + "\n\n".join(
        parts
    )


def _toml(value: Any) -> str:
    if isinstance(value, bool):
        return str(value).lower()
    if isinstance(value, list):
        return f"[{', '.join(map(_toml, value))}]"
    return f'"{value}"' if isinstance(value, str) else str(value)

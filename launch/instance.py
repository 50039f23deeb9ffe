"""One instance of the product on this machine: its folder, its ports, its secrets."""

import os
import pwd
import random
import secrets
import socket
import tempfile
from dataclasses import dataclass
from pathlib import Path

from launch.config import Config
from launch.fault import LaunchFault

PROJECT = Path(__file__).resolve().parent.parent
HOST = "127.0.0.1"
DB_PORT = 23780  # below the range that the system hands out to outgoing connections, which would take it now and then
# name -> random bytes; the demo's password is one that people type
SECRETS = {
    "RUDDY_SECRET_KEY": 48,
    "RUDDY_DB_PASSWORD": 32,
    "RUDDY_DB_ROOT_PASSWORD": 32,
    "RUDDY_DEMO_PASSWORD": 6,
    "RUDDY_GATEWAY_TOKEN": 32,
}


def port_is_taken(port: int) -> bool:
    """Whether a program listens on this loopback port."""
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except OSError:
            return True
    return False


def free_port() -> int:
    """A loopback port that is free now, below the range the system hands out to outgoing connections."""
    while port_is_taken(port := random.randrange(20000, 32000)):
        pass
    return port


def port_from_environment(name: str, default: int) -> int:
    """The port named in the environment, or the default."""
    text = os.environ.get(name, "").strip() or str(default)
    if not text.isdigit() or not 1024 <= int(text) <= 65535:
        raise LaunchFault(f"{name} is '{text}': give a port between 1024 and 65535.")
    return int(text)


@dataclass(frozen=True)
class Instance:
    """Where one instance keeps its data (never in git), where it listens, and the settings it runs with. config: the
    file of one that is served for real.
    """

    name: str
    home: Path
    db_port: int
    web_port: int
    settings: str = "web.settings.test"
    config: Config | None = None
    lan: str = ""  # this machine's address in its network, where the demo is shown there too

    @property
    def public_address(self) -> str:
        """What links begin with, where no configuration says it."""
        return f"https://{self.lan}:{self.web_port + 1}" if self.lan else f"http://{HOST}:{self.web_port}"

    @classmethod
    def demo(cls) -> "Instance":
        """The instance `./ruddy demo` serves: it keeps its data and its ports."""
        return cls(
            name="demo",
            home=_state_folder() / "demo",
            db_port=port_from_environment("RUDDY_DB_PORT", DB_PORT),
            web_port=port_from_environment("RUDDY_WEB_PORT", 8780),
            settings="web.settings.demo",
        )

    @classmethod
    def test(cls) -> "Instance":
        """The instance the tests use: whatever ports are free, so that it never meets the demo."""
        return cls(name="test", home=_state_folder() / f"test-{os.getpid()}", db_port=free_port(), web_port=0)

    @classmethod
    def served(cls, config: Config) -> "Instance":
        """The instance that a configuration file describes."""
        return cls(
            name="serve",
            home=Path(config.of("", "folder")),
            db_port=config.of("database", "port"),
            web_port=config.of("web", "port"),
            settings="web.settings.production",
            config=config,
        )

    @property
    def has_bucket(self) -> bool:
        """Whether its photos lie in a bucket instead of its folder."""
        return bool(self.config and self.config.of("photos", "bucket"))

    def prepare(self) -> None:
        """Make the folder, private to this user. Root goes on as whom the folder belongs to, so that nothing in it
        becomes root's.
        """
        try:
            self.home.mkdir(parents=True, exist_ok=True)
            owner = self.home.stat()
            if os.geteuid() == 0 and owner.st_uid != 0:
                os.setgroups([])
                os.setgid(owner.st_gid)
                os.setuid(owner.st_uid)
                os.environ["HOME"] = pwd.getpwuid(owner.st_uid).pw_dir
            self.home.chmod(0o700)
            with tempfile.TemporaryFile(dir=self.home):
                pass
        except OSError as error:
            raise LaunchFault(
                f"Cannot write to {self.home} ({error.strerror}): run as the user that owns it, or set RUDDY_HOME."
            ) from error

    def secrets(self) -> dict[str, str]:
        """Generated on first use, kept with mode 0600 beside the data they protect; one that a newer version needs is
        added.
        """
        path = self.home / "secrets.env"
        known = dict(line.split("=", 1) for line in path.read_text().split()) if path.exists() else {}
        new = {name: secrets.token_urlsafe(size) for name, size in SECRETS.items() if name not in known}
        if new:
            descriptor = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
            with os.fdopen(descriptor, "a") as file:
                file.write("".join(f"{name}={value}\n" for name, value in new.items()))
        return known | new

    def environment(self) -> dict[str, str]:
        """The environment Django runs in."""
        values = self.secrets()
        values.pop("RUDDY_DB_ROOT_PASSWORD")
        usual = {
            **os.environ,
            **values,
            "DJANGO_SETTINGS_MODULE": self.settings,
            "RUDDY_DB_HOST": HOST,
            "RUDDY_DB_PORT": str(self.db_port),
            "RUDDY_STATE": str(self.home),
        }
        if self.config is None:
            address = os.environ.get("RUDDY_PUBLIC_ADDRESS") or self.public_address
            return usual | {"RUDDY_PUBLIC_ADDRESS": address, "RUDDY_LAN": self.lan}
        return usual | _told_by(self.config)


def _told_by(config: Config) -> dict[str, str]:
    """What Django is told of a configuration file."""
    told = {
        "RUDDY_HOSTS": ",".join(config.of("", "hosts")),
        "RUDDY_HOST_PAGES": config.of("", "host_pages"),
        "RUDDY_PROXIES": " ".join(config.of("proxy", "addresses")),
        "RUDDY_MAIL_HOST": config.of("mail", "host"),
        "RUDDY_MAIL_PORT": str(config.of("mail", "port")),
        "RUDDY_MAIL_USER": config.of("mail", "user"),
        "RUDDY_MAIL_PASSWORD": config.secret("mail", "password_file"),
        "RUDDY_MAIL_FROM": config.of("mail", "sender"),
        "RUDDY_MAIL_TLS": "yes" if config.of("mail", "tls") else "no",
        "RUDDY_MONITOR_TOKEN": config.secret("monitor", "token_file"),
    }
    if config.of("photos", "bucket"):
        told |= {
            "RUDDY_BUCKET": config.of("photos", "bucket"),
            "RUDDY_BUCKET_ENDPOINT": config.of("photos", "endpoint"),
            "RUDDY_BUCKET_REGION": config.of("photos", "region"),
            "RUDDY_BUCKET_KEY": config.of("photos", "key_id"),
            "RUDDY_BUCKET_SECRET": config.secret("photos", "secret_file"),
        }
    if config.of("database", "host"):
        told |= {
            "RUDDY_DB_HOST": config.of("database", "host"),
            "RUDDY_DB_NAME": config.of("database", "name"),
            "RUDDY_DB_USER": config.of("database", "user"),
            "RUDDY_DB_PASSWORD": config.secret("database", "password_file"),
        }
    return told


def _state_folder() -> Path:
    return Path(os.environ.get("RUDDY_HOME") or PROJECT / ".ruddy").resolve()

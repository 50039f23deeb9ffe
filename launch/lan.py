"""The demo on a phone in the same network: an address, a certificate of its own, a web server that speaks TLS."""

import socket
import subprocess

from launch.fault import LaunchFault
from launch.instance import Instance
from launch.processes import Process
from launch.supervisor import free_the_port, gunicorn

SOMEWHERE = ("192.0.2.1", 9)  # RFC 5737: nobody's; nothing is sent, the system says which way it would go


def address() -> str:
    """This machine's address in its network; raises LaunchFault where it is in none."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as way:
        try:
            way.connect(SOMEWHERE)
        except OSError as error:
            raise LaunchFault("This machine is in no network with a phone: start it without --lan.") from error
        return str(way.getsockname()[0])


def process(instance: Instance) -> Process:
    """The web server that phones ask, on the port after the usual one."""
    port = instance.web_port + 1
    free_the_port(port, "network", "RUDDY_WEB_PORT")
    certificate, key = instance.home / f"{instance.lan}.pem", instance.home / f"{instance.lan}.key"
    if not certificate.exists():
        made = subprocess.run(
            ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "30", "-subj", "/CN=Ruddy Draft demo",
             "-addext", f"subjectAltName=IP:{instance.lan}", "-keyout", str(key), "-out", str(certificate)],
            capture_output=True, text=True,
        )  # fmt: skip
        if made.returncode:
            raise LaunchFault(f"No certificate could be made: {(made.stderr.splitlines() or ['no message'])[-1]}")
        key.chmod(0o600)
    return gunicorn(instance, "network", f"0.0.0.0:{port}", 1, 4, f"--certfile={certificate}", f"--keyfile={key}")

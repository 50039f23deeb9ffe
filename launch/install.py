"""`./ruddy install`: what the machine's own service manager and a TLS proxy want, written from the configuration. No
certificate is asked for here: an own one is named in the configuration.
"""

import sys
from pathlib import Path

from launch.config import Config
from launch.fault import LaunchFault
from launch.instance import HOST, PROJECT
from launch.supervisor import say

USER = "ruddy-draft"
UNIT, CADDY, NGINX = f"{USER}.service", f"{USER}.caddy", f"{USER}.nginx.conf"
LAST = {
    "caddy": "in /etc/caddy/Caddyfile a line 'import conf.d/*.caddy'; then systemctl reload caddy",
    "nginx": "nginx -t && systemctl reload nginx",
}
LARGEST_UPLOAD_MB = 100  # an archive: web.settings.base.LARGEST_UPLOADS


def install(config: Config, to: Path, proxy: str) -> None:
    """Write unit and proxy configuration under a root folder, and say what is left to do."""
    for name in ("certificate", "key"):
        if not config.of("proxy", name):
            raise LaunchFault(f"{config.path}: proxy.{name} is empty: name the file, for the proxy that speaks TLS.")
    proxied = {"caddy": ("etc/caddy/conf.d", CADDY, caddy), "nginx": ("etc/nginx/conf.d", NGINX, nginx)}
    folder, name, written = proxied[proxy]
    _write(to / "etc/systemd/system" / UNIT, unit(config))
    _write(to / folder / name, written(config))
    place = config.of("", "folder")
    say(
        f"Next, as root:\n  useradd --system --home-dir {place} --shell /usr/sbin/nologin {USER}\n"
        f"  install -d -m 700 -o {USER} {place}\n  systemctl daemon-reload && systemctl enable --now {USER}\n"
        f"  {LAST[proxy]}"
    )


def unit(config: Config) -> str:
    """The systemd unit: one service, which keeps its own processes; it writes to its folders alone."""
    writes = [config.of("", "folder"), *filter(None, [config.of("backup", "folder")])]
    return f"""[Unit]
Description=Ruddy Draft
After=network.target
StartLimitIntervalSec=0

[Service]
User={USER}
WorkingDirectory={PROJECT}
ExecStart={sys.executable} -m launch serve --config {config.path}
ExecReload=/bin/kill -USR1 $MAINPID
Restart=always
RestartSec=2
KillMode=mixed
TimeoutStopSec=90
Environment=PYTHONUNBUFFERED=1 PYTHONDONTWRITEBYTECODE=1 OPENBLAS_NUM_THREADS=1
UMask=0077
LimitNOFILE=65536

ProtectSystem=strict
ReadWritePaths={" ".join(writes)}
ProtectHome={"read-only" if str(PROJECT).startswith(("/home", "/root")) else "yes"}
PrivateTmp=yes
PrivateDevices=yes
NoNewPrivileges=yes
CapabilityBoundingSet=
AmbientCapabilities=
ProtectKernelTunables=yes
ProtectKernelModules=yes
ProtectKernelLogs=yes
ProtectControlGroups=yes
ProtectClock=yes
ProtectHostname=yes
ProtectProc=invisible
RestrictAddressFamilies=AF_UNIX AF_INET AF_INET6
RestrictNamespaces=yes
RestrictRealtime=yes
RestrictSUIDSGID=yes
LockPersonality=yes
RemoveIPC=yes
SystemCallArchitectures=native
SystemCallFilter=@system-service
SystemCallErrorNumber=EPERM

[Install]
WantedBy=multi-user.target
"""


def caddy(config: Config) -> str:
    """A site of Caddy's: TLS by an own certificate, everything else to the web server."""
    hosts, web = ", ".join(config.of("", "hosts")), f"{HOST}:{config.of('web', 'port')}"
    return f"""{hosts} {{
	tls {config.of("proxy", "certificate")} {config.of("proxy", "key")}
	request_body {{
		max_size {LARGEST_UPLOAD_MB}MB
	}}
	@inside path /-/counters/*
	respond @inside 404
	reverse_proxy {web} {{
		header_up X-Forwarded-For {{remote_host}}
	}}
}}
"""


def nginx(config: Config) -> str:
    """A server of nginx's: the same."""
    hosts, web = " ".join(config.of("", "hosts")), f"{HOST}:{config.of('web', 'port')}"
    return f"""server {{
    listen 80;
    listen [::]:80;
    server_name {hosts};
    return 301 https://$host$request_uri;
}}

server {{
    listen 443 ssl http2;
    listen [::]:443 ssl http2;
    server_name {hosts};
    ssl_certificate {config.of("proxy", "certificate")};
    ssl_certificate_key {config.of("proxy", "key")};
    ssl_protocols TLSv1.2 TLSv1.3;
    client_max_body_size {LARGEST_UPLOAD_MB}m;
    client_body_timeout 60s;
    location /-/counters/ {{
        return 404;
    }}
    location / {{
        proxy_pass http://{web};
        proxy_http_version 1.1;
        proxy_set_header Host $host;
        proxy_set_header X-Forwarded-Proto $scheme;
        proxy_set_header X-Forwarded-For $remote_addr;
        proxy_request_buffering on;
        proxy_read_timeout 120s;
    }}
}}
"""


def _write(path: Path, text: str) -> None:
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text)
    except OSError as error:
        raise LaunchFault(
            f"{path} cannot be written ({error.strerror}): run as root, or name a folder: --to."
        ) from error
    say(f"Written: {path}")

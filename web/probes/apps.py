"""Gateways and the samples of their probes, nothing else."""

from django.apps import AppConfig


class ProbesConfig(AppConfig):
    name = "web.probes"
    label = "probes"

"""Airflow: how it was found, at which plane, how far it can be trusted."""

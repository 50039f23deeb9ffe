"""Starting and stopping what the product runs on: one project-local MariaDB and the web server.

Standard library only. Nothing of the job lives here.
"""

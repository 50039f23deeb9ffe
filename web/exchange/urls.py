"""What leaves the shop and comes in."""

from django.urls import path

from web.exchange.views import archives, customers, papers, registers, stored, tokens

app_name = "exchange"
urlpatterns = [
    path("visits/<uuid:public_id>/report.pdf", papers.visit_report, name="report"),
    path("visits/<uuid:public_id>/bundle.json", archives.of_visit, name="bundle"),
    path("systems/<uuid:public_id>/panel.pdf", papers.panel_sheet, name="panel"),
    path("visits/<uuid:public_id>/customer/", customers.links, name="links"),
    path("systems/<uuid:public_id>/archive.zip", archives.of_system, name="system_archive"),
    path("houses/<uuid:public_id>/archive.zip", archives.of_house, name="house_archive"),
    path("archives/", archives.page, name="archives"),
    path("archives/start/", archives.start, name="start_archive"),
    path("archives/start/narrowed/", archives.start_narrowed, name="start_narrowed"),
    path("reports/start/", archives.start_reports, name="start_reports"),
    path("archives/<uuid:public_id>.zip", archives.of_shop, name="shop_archive"),
    path("tokens/", tokens.page, name="tokens"),
    path("tokens/<uuid:public_id>/revoke/", tokens.revoke, name="revoke_token"),
    path("stored/", stored.page, name="stored"),
    path("houses/<uuid:public_id>/erase/", stored.erase, name="erase"),
    path("customers/", registers.page, name="registers"),
    path("customers/<uuid:public_id>/", registers.one, name="register"),
    path("links/<uuid:public_id>/end/", customers.end, name="end_link"),
    path("c/<str:token>/", customers.read, name="customer"),
]

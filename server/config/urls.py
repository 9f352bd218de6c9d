"""The API under /api/; every other address is the application's page, which routes itself."""

from django.urls import path, re_path

from config.api import api
from config.page import nowhere, page

handler400 = "config.page.bad"
handler403 = "config.page.bad"
handler404 = "config.page.nowhere"
handler500 = "config.page.failed"

urlpatterns = [
    path("api/", api.urls),
    re_path(r"^api/", nowhere),
    re_path(r"^(?!assets/).*$", page),
]

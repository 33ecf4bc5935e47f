"""Django's administration of people, deeds, jobs and storage, at /admin/ for those who may, in team mode
alone.

One signs in as everywhere else, so that tries are counted there too; what is changed is written down as a
deed.
"""

from __future__ import annotations

from typing import Any

from builds.models import Build
from designs.models import Design
from django.conf import settings
from django.contrib.admin import AdminSite, ModelAdmin, action
from django.contrib.auth.admin import UserAdmin
from django.contrib.auth.models import User
from django.db.models import Model, QuerySet
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.template.response import TemplateResponse
from jobs.models import Job
from jobs.services import cancel, forget
from people.models import Deed, Share, Token
from people.permissions import Rule
from surveys.models import RunThrough, Survey
from traces.models import Trace

from metaspira_server.health import disk_use


class Administration(AdminSite):
    site_header = site_title = "Metaspira: administration"
    index_title = "People, deeds, jobs and storage"
    index_template = "admin/storage.html"
    site_url = "/"

    def admin_view(self, view: Any, cacheable: bool = False) -> Any:
        inner = super().admin_view(view, cacheable)

        def viewed(request: HttpRequest, *args: Any, **kwargs: Any) -> Any:
            if not settings.TEAM:
                raise Http404
            if request.method == "POST":
                request.rule = Rule(changes=True)  # type: ignore[attr-defined]
            return inner(request, *args, **kwargs)

        return viewed

    def login(self, request: HttpRequest, extra_context: dict[str, Any] | None = None) -> HttpResponse:
        """The workbench's own sign-in; whoever is signed in there and may not is told nothing."""
        if not settings.TEAM or request.user.is_authenticated:
            raise Http404
        return redirect("/")

    def index(self, request: HttpRequest, extra_context: dict[str, Any] | None = None) -> TemplateResponse:
        sizes = [(name, f"{size / 1e6:.1f} MB") for name, size in disk_use().items()]
        return super().index(request, {**(extra_context or {}), "disk_use": sizes})


class OnlyRead(ModelAdmin):  # type: ignore[type-arg]
    """Rows that are looked at, not written."""

    def has_add_permission(self, request: HttpRequest) -> bool:
        return False

    def has_change_permission(self, request: HttpRequest, obj: Model | None = None) -> bool:
        return False


class People(UserAdmin):  # type: ignore[type-arg]
    list_display = ("username", "is_active", "is_staff", "last_login")
    list_filter = ("is_active", "is_staff")
    fieldsets = ((None, {"fields": ("username", "password", "is_active", "is_staff", "is_superuser")}),)


class Deeds(OnlyRead):
    list_display = ("at", "person", "method", "path", "status")
    list_filter = ("method", "status")
    search_fields = ("person", "path")
    date_hierarchy = "at"

    def has_delete_permission(self, request: HttpRequest, obj: Model | None = None) -> bool:
        return False


class Tokens(OnlyRead):
    list_display = ("person", "name", "may_edit", "created", "expires", "used")
    exclude = ("digest",)


class Jobs(OnlyRead):
    list_display = ("id", "state", "progress", "step", "asked_by", "created", "finished")
    list_filter = ("state",)
    fields = (
        "state",
        "progress",
        "step",
        "asked_by",
        "turn",
        "attempt",
        "created",
        "finished",
        "error",
    )
    actions = ("stop",)

    @action(description="Stop these")
    def stop(self, request: HttpRequest, jobs: QuerySet[Job]) -> None:
        for job in jobs:
            cancel(job)

    def delete_model(self, request: HttpRequest, obj: Job) -> None:
        forget(obj)

    def delete_queryset(self, request: HttpRequest, queryset: QuerySet[Job]) -> None:
        for job in queryset:
            forget(job)

    def has_delete_permission(self, request: HttpRequest, obj: Model | None = None) -> bool:
        return obj is None or (isinstance(obj, Job) and obj.state not in Job.ACTIVE)


class Designs(OnlyRead):
    list_display = ("name", "head", "created", "updated", "deleted")
    search_fields = ("name",)

    def has_delete_permission(self, request: HttpRequest, obj: Model | None = None) -> bool:
        return False


class Shares(ModelAdmin):  # type: ignore[type-arg]
    list_display = ("design", "person", "role")
    list_filter = ("role",)
    raw_id_fields = ("design",)


administration = Administration()
administration.register(User, People)
administration.register(Deed, Deeds)
administration.register(Token, Tokens)
administration.register(Design, Designs)
administration.register(Share, Shares)
for _kind in (Build, Survey, RunThrough, Trace):
    administration.register(_kind, Jobs)

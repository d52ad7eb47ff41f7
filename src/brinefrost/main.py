"""The application, put together."""

from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.responses import FileResponse, Response
from fastapi.routing import APIRoute
from pydantic_settings import BaseSettings, SettingsConfigDict
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.staticfiles import StaticFiles

from brinefrost import __version__
from brinefrost.api import batches, bench, household, labels, ledger, live, plans, problems, recipes, samples, sessions
from brinefrost.api.guards import Guard
from brinefrost.services.checked import Checked
from brinefrost.services.office import Clock, Office, WallClock
from brinefrost.store import Database
from brinefrost.store.marking import Marking
from brinefrost.store.marks import marks_here


class Settings(BaseSettings):
    """What the launcher tells the application."""

    model_config = SettingsConfigDict(env_prefix="BRINEFROST_")

    database_url: str = ""
    web_root: Path | None = None
    checked: Path | None = None  # the outcome of the daily integrity check
    address: str = ""  # what a tablet opens; nothing where only this machine reaches it
    hosts: tuple[str, ...] = ("127.0.0.1", "localhost")


def create_app(settings: Settings | None = None, clock: Clock | None = None) -> FastAPI:
    """The application with its routes, guards and pages."""
    settings = settings or Settings()
    database = Database(settings.database_url, marks=marks_here())
    app = FastAPI(
        title="Brinefrost",
        lifespan=lambda _: Marking(database).while_it_runs(),
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        generate_unique_id_function=_operation,
    )
    app.state.office = Office(database, clock or WallClock(), Checked(settings.checked))
    app.state.address = settings.address
    for router in (
        sessions.router,
        plans.router,
        recipes.router,
        labels.router,
        batches.router,
        bench.router,
        household.router,
        ledger.router,
        live.router,
        samples.router,
    ):
        app.include_router(router, responses=problems.DESCRIBED)
    problems.install(app)
    app.add_middleware(Guard)
    app.add_middleware(GZipMiddleware, minimum_size=1000, compresslevel=6)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=list(settings.hosts))
    if settings.web_root and settings.web_root.is_dir():
        _serve_pages(app, settings.web_root.resolve())
    return app


class Assets(StaticFiles):
    """Files whose names bear their content's hash: they never change, so no browser need ask twice."""

    def file_response(self, *args: Any, **kwargs: Any) -> Response:
        """The file, to be kept for a year."""
        reply = super().file_response(*args, **kwargs)
        reply.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        return reply


def _operation(route: APIRoute) -> str:
    return route.name


def _serve_pages(app: FastAPI, root: Path) -> None:
    app.mount("/assets", Assets(directory=root / "assets"), name="assets")
    files = {path.name for path in root.iterdir() if path.is_file() and not path.name.startswith(".")}

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        """A file of the front end, or its one page, which finds its own way."""
        if path.startswith("api/"):
            raise HTTPException(404, "There is nothing at this address.")
        name = path if path in files else "index.html"
        return FileResponse(root / name, headers={"Cache-Control": "no-cache"})

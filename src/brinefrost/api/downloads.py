"""What leaves the house as a file: who took it is a record itself."""

from fastapi import Response

from brinefrost.services.office import Actor, Office


def download(content: bytes, kind: str, name: str) -> Response:
    """A file to save, of a media type, under a name."""
    return Response(content, media_type=kind, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def record_export(office: Office, actor: Actor, what: str, form: str) -> None:
    """Keep who took what out of the house, and in which form."""
    now, told = office.clock.now(), {"name": f"{what}, {form}"}
    office.read(lambda store: store.ledger.append("record_exported", "exports", told, actor.author, now))

"""What changes, told while it happens: server-sent events."""

import time
from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse
from starlette.concurrency import run_in_threadpool

from brinefrost.api.seats import COOKIE, Everyone, OfficeHere
from brinefrost.core.errors import TooManyTriesError
from brinefrost.core.words import say
from brinefrost.services import accounts
from brinefrost.services.office import Office

router = APIRouter(prefix="/api/v1", tags=["live"])
QUIET_S = 15.0  # after so long without a change the line is kept alive
MOST_FOLLOWERS = 200
LOOKS_AGAIN_S = 3.0  # while the kitchen is busy: a session that was ended hears no more after this
GATHERS_S = 0.05  # what is written so close together is told together


@router.get("/live", response_class=StreamingResponse)
async def follow_changes(request: Request, actor: Everyone, office: OfficeHere) -> StreamingResponse:
    """A stream of what was written: the subject of each record, or * where something may have been missed."""
    if office.changes.count() >= MOST_FOLLOWERS:
        raise TooManyTriesError(say("api.live.too_many_screens_follow_at_once"))
    return StreamingResponse(_tell(request, office), media_type="text/event-stream")


async def _tell(request: Request, office: Office) -> AsyncIterator[str]:
    follower = office.changes.follow()
    looked = time.monotonic()
    try:
        yield ": following\n\n"
        while True:
            subject = await follower.next(QUIET_S)
            if time.monotonic() - looked > LOOKS_AGAIN_S or subject is None:
                looked = time.monotonic()
                if await run_in_threadpool(accounts.who, office, request.cookies.get(COOKIE)) is None:
                    return
            if subject is not None:
                subjects = {subject: None, **dict.fromkeys(await follower.more(GATHERS_S))}
                yield "".join(f"event: changed\ndata: {each}\n\n" for each in subjects)
                continue
            yield ": still here\n\n"
    finally:
        office.changes.leave(follower)

"""Files of readings: looked at, mapped, read in the background, cancelled."""

from typing import Annotated

from fastapi import APIRouter, Query, Request

from nudge.api.access import UnitsIn, WorkshopIn, declared_size
from nudge.presenters.imports import FileLookOut, ImportOut, MappingModel
from nudge.services.rows import Import

router = APIRouter(prefix="/api/visits/{visit_id}/imports")


def import_out(row: Import) -> ImportOut:
    return ImportOut(
        id=row.id,
        file_name=row.file_name,
        state=row.state,
        message=row.message,
        readings=row.readings,
        refused=row.refused,
        share=min(row.bytes_read / max(row.bytes_in_all, 1), 1.0),
    )


@router.put("/{import_id}")
async def receive(
    workshop: WorkshopIn,
    units: UnitsIn,
    visit_id: str,
    import_id: str,
    request: Request,
    name: Annotated[str, Query(max_length=200)],
    zone_minutes: Annotated[int, Query(ge=-900, le=900)] = 0,
) -> FileLookOut:
    """Send the file itself as the body; the answer is what it looks like."""
    seen = await workshop.imports.receive(
        visit_id,
        import_id,
        name,
        declared_size(request),
        request.stream(),
        zone_minutes,
    )
    look = seen.look
    return FileLookOut(
        id=import_id,
        heading=list(look.heading),
        rows=[list(row) for row in look.rows],
        mapping=MappingModel.model_validate(look.mapping, from_attributes=True),
        questions=list(look.questions),
        titles=list(look.titles),
        remembered=seen.remembered,
    )


@router.post("/{import_id}/start")
def start(workshop: WorkshopIn, visit_id: str, import_id: str, body: MappingModel) -> ImportOut:
    """Read it in the background with this mapping, which is remembered for its heading."""
    return import_out(workshop.imports.start(visit_id, import_id, body.mapping()))


@router.post("/{import_id}/cancel")
def cancel(workshop: WorkshopIn, visit_id: str, import_id: str) -> ImportOut:
    """Stop reading; nothing of it is kept."""
    return import_out(workshop.imports.cancel(visit_id, import_id))


@router.get("")
def imports(workshop: WorkshopIn, visit_id: str) -> list[ImportOut]:
    return [import_out(row) for row in workshop.imports.of_visit(visit_id)]

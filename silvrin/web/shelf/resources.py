"""The shelf as resources: what lies on it, own items, and measurements."""

from typing import Annotated, Any

from fastapi import APIRouter, Query, Response

from ...core.development.developer import DEVELOPERS
from ...core.development.settings import DeveloperKind
from ...core.film.placement import development_for
from ...core.film.stock import Stock
from ...core.light.lens_filter import ANY_HUE
from ...errors import NotFound
from ...shelf import BY_TEMPERATURE, shipped
from ...shelf.items import KINDS, ItemFile, Kind, item_text, kind_of
from ...store import shelf_items
from ...store.library import Library
from .described import describe, factors_of
from .measuring import Measured, Measurement, measure
from .models import DevelopmentProposal, Factors, Shelf

Zone = Annotated[float, Query(ge=-3, le=14)]


def shelf_router(library: Library) -> APIRouter:
    """Resources of the shelf."""
    router = APIRouter(prefix="/api")
    database = library.database

    def known(stock_id: str) -> Stock:
        if stock_id not in library.shelf.stocks:
            raise NotFound(f"There is no stock {stock_id!r} on the shelf.")
        return library.shelf.stock(stock_id)

    @router.get("/shelf")
    def get_shelf() -> Shelf:
        return describe(library.shelf)

    @router.get("/shelf/stocks/{stock_id}/factors")
    def get_factors(stock_id: str) -> Factors:
        return factors_of(library.shelf, known(stock_id))

    @router.get("/shelf/stocks/{stock_id}/development")
    def propose_development(
        stock_id: str, zone: Zone, target: Zone, developer: DeveloperKind = "general"
    ) -> DevelopmentProposal:
        stock = known(stock_id)
        return DevelopmentProposal(
            **vars(development_for(stock, zone, target, DEVELOPERS[developer]))
        )

    @router.get("/shelf/{kind}/{item_id}/file")
    def get_file(kind: Kind, item_id: str) -> Response:
        """An item as a file of open JSON."""
        shelf = library.shelf
        found: dict[Kind, Any] = {
            "stock": shelf.stocks,
            "filter": shelf.filters,
            "light": shelf.lights,
            "paper": shelf.paper_items,
            "toner": shelf.toners,
            "toning": shelf.tonings,
        }
        item = found[kind].get(item_id)
        if item is None:
            raise NotFound(f"There is no {kind} {item_id!r} on the shelf.")
        name = f"{item_id}.{kind}.json"
        return Response(
            item_text(item),
            media_type="application/json",
            headers={"content-disposition": f'attachment; filename="{name}"'},
        )

    @router.get("/shelf-schema")
    def shelf_schema() -> dict[str, Any]:
        """JSON Schemas of the shelf's files, by kind."""
        return {kind: model.model_json_schema() for kind, model in KINDS.items()}

    @router.post("/shelf/items", status_code=201)
    def add_item(file: ItemFile) -> ItemFile:
        """Put an own item on the shelf; it gets an id of its own."""
        shelf = shipped()
        taken = {
            *shelf.stocks, *shelf.filters, *shelf.lights, *shelf.paper_items, *shelf.tonings,
            *shelf.toners, ANY_HUE, BY_TEMPERATURE,
        }  # fmt: skip
        item = file.read()
        with database.write() as connection:
            kept = shelf_items.add_item(connection, item, taken)
        return ItemFile(kind=kind_of(kept), item=kept.model_dump())

    @router.put("/shelf/items/{item_id}")
    def change_item(item_id: str, file: ItemFile) -> ItemFile:
        """Change an own item."""
        item = file.read().model_copy(update={"id": item_id})
        with database.write() as connection:
            shelf_items.change_item(connection, item)
        return ItemFile(kind=kind_of(item), item=item.model_dump())

    @router.delete("/shelf/items/{item_id}", status_code=204)
    def remove_item(item_id: str, though_used_before: bool = False) -> None:
        """Take an own item off the shelf. Where an earlier state of a print needs it, that is only
        done when it is said to be known."""
        with database.write() as connection:
            shelf_items.remove_item(connection, item_id, though_used_before)

    @router.post("/shelf/measurements")
    def read_measurement(given: Measurement) -> Measured:
        """Read a step wedge or a spectrum; nothing is kept."""
        return measure(given)

    return router

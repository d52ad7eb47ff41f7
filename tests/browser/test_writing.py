"""Dishes written from a blank page: lines, parts that are eaten raw or rare, and the verdict each ought to have."""

from collections.abc import Callable
from dataclasses import dataclass, field

import pytest
from playwright.sync_api import Page, expect

pytestmark = pytest.mark.browser


@dataclass(frozen=True)
class Written:
    """A step as it is typed: its kind, its name, what is set, the line it begins, the lines it takes."""

    kind: str
    name: str
    sets: dict[str, str] = field(default_factory=dict)
    line: str = ""  # "own" begins one of its name; "main" goes back to the dish itself; nothing: as the one before
    takes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Part:
    """An ingredient as it is chosen: its key, its name, the step it goes in at, how it is eaten."""

    key: str
    name: str
    at: str = ""
    eaten: str = ""


SERVE = Written("serve", "Plate")
KEEP = Written("cold_keep", "Keep", {"days": "2"})


def heat(name: str, medium: str, celsius: str, mm: str, minutes: str, **more: str) -> Written:
    sets = {"medium": medium, "surroundings_c": celsius, "thickness_m": mm, "duration_s": minutes}
    return Written("heat_in", name, sets, more.get("line", ""), tuple(filter(None, [more.get("takes", "")])))


def blast(name: str, mm: str, minutes: str, line: str = "") -> Written:
    return Written("chill_air", name, {"surroundings_c": "-6", "thickness_m": mm, "duration_s": minutes}, line)


def hands(name: str, work: str, line: str = "", takes: tuple[str, ...] = (), **sets: str) -> Written:
    return Written("handwork", name, {"work": work, "duration_s": "10", **sets}, line, takes)


MOUSSE = (
    heat("Melt", "bath", "45", "20", "30", line="own"),
    hands("Whip", "mix", line="own"),
    hands("Fold", "mix", line="main", takes=("Melt", "Whip")),
    blast("Chill", "20", "90"),
    KEEP,
    SERVE,
)
TERRINE = (
    hands("Mince", "mince", surroundings_c="10"),
    heat("Bake", "still_oven", "130", "60", "240"),
    hands("Livers", "trim", line="own", surroundings_c="10"),
    hands("Layer", "press", line="main", takes=("Livers",), surroundings_c="10"),
    blast("Chill", "60", "360"),
    KEEP,
)
BRAISE = (
    heat("Brown", "pan", "190", "30", "6"),
    heat("Braise", "boiling", "90", "30", "180"),
    hands("Portion", "portion"),
    blast("Chill", "30", "240"),
    Written("cold_keep", "Keep", {"days": "1"}),
    Written("reheat", "Reheat", {"core_c": "85"}),
    blast("Chill again", "30", "240"),
    Written("cold_keep", "Keep again", {"days": "1"}),
)


CONFIT = (
    heat("Confit", "still_fat", "90", "40", "600"),
    hands("Beat", "mix", line="own", surroundings_c="12"),
    hands("Coat", "coat", line="main", takes=("Beat",), thickness_m="30"),
    heat("Fry", "frying", "175", "30", "3"),
    SERVE,
)
MEETS = "The process should meet its limits."


def add_step(page: Page, step: Written) -> None:
    """Behind the one that is open; its card is open then."""
    drawer = page.locator(".drawer")
    drawer.get_by_label("Add a step", exact=True).select_option(step.kind)
    drawer.get_by_role("button", name="Add a step: add it").click()
    name = drawer.locator("#step-name")
    expect(name).not_to_have_value("Receive")
    name.fill(step.name)
    for setting, value in step.sets.items():
        box = drawer.locator(f"#field-{setting}")
        if box.evaluate("(each) => each.tagName") == "SELECT":
            box.select_option(value)
        elif box.get_attribute("type") == "checkbox":
            box.set_checked(bool(value))
        else:
            box.fill(value)
            box.blur()
    if step.line:
        drawer.get_by_label("Line", exact=True).select_option("+" if step.line == "own" else "")
    for line in step.takes:
        drawer.get_by_role("group", name="Lines that run in here").get_by_label(line, exact=True).check()


def test_what_is_typed_right_after_adding_goes_into_the_step_that_was_added(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    begin_blank(page)
    add_step(page, heat("Roast", "still_oven", "150", "40", "60"))
    page.locator(".drawer").get_by_label("Add a step", exact=True).select_option("serve")
    button = page.get_by_role("button", name="Add a step: add it").element_handle()
    # the very next turn of the page's own clock: nobody types sooner, and a busy machine draws no later
    open_now = page.evaluate(
        """async (button) => {
            button.click()
            await Promise.resolve()
            return document.querySelector('#step-name').value
        }""",
        button,
    )
    assert open_now == "Serve"


def add_part(page: Page, part: Part) -> None:
    drawer = page.locator(".drawer")
    drawer.get_by_label("Add an ingredient", exact=True).select_option(part.key)
    drawer.get_by_role("button", name="Add an ingredient: add it").click()
    if part.at:
        drawer.get_by_label(f"Where {part.name} goes in").select_option(label=f"goes in at {part.at}")
    if part.eaten:
        drawer.get_by_label(f"How {part.name} is eaten").select_option(part.eaten)


def written(page: Page, steps: tuple[Written, ...], *parts: Part) -> None:
    """A dish typed in from a blank page; what is in it stands open."""
    begin_blank(page)
    for step in steps:
        add_step(page, step)
    page.get_by_role("button", name="The dish").click()
    for part in parts:
        add_part(page, part)
    expect(page.locator(".sh-row.cards")).to_have_count(1 + sum(step.line == "own" for step in steps))


def begin_blank(page: Page) -> None:
    page.get_by_role("button", name="New plan").click()
    page.get_by_label("Name of the dish").fill("Dish of the day")
    page.get_by_label("Begin with").select_option("blank")
    page.get_by_role("dialog").get_by_role("button", name="New plan").click()
    page.locator(".sh-card", has_text="Receive").click()


def verdict(page: Page, said: str) -> None:
    expect(page.locator(".plan-standing p")).to_contain_text(said)


def test_a_mousse_of_raw_whites_of_told_ones_and_of_pasteurised(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    whites = Part("white", "Egg whites", "Whip")
    written(page, MOUSSE, Part("chocolate", "Chocolate", "Melt"), whites, Part("cream", "Cream", "Fold"))
    verdict(page, "The eggs leave this plan raw")
    expect(page.locator(".sh-part.raw")).to_contain_text("Egg whites raw, and nothing kills it")
    page.get_by_label("How Egg whites is eaten").select_option("raw")
    verdict(page, "Egg whites: eaten raw or rare, by general guests alone.")
    expect(page.locator(".sh-part")).to_have_count(3)
    page.get_by_role("button", name="Take out Egg whites").click()
    add_part(page, Part("white-pasteurised", "Egg white, pasteurised", "Whip"))
    verdict(page, MEETS)
    expect(page.locator(".plan-standing p")).not_to_contain_text("raw")


def test_a_fillet_seared_and_finished_in_the_oven_rare(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    steps = (heat("Sear", "pan", "220", "40", "4"), heat("Finish", "fan_oven", "120", "40", "15"), SERVE)
    written(page, steps, Part("beef-fillet", "Beef fillet"))
    verdict(page, "does not meet")
    page.get_by_label("How Beef fillet is eaten").select_option("rare")
    verdict(page, MEETS)


def test_a_confit_coated_with_raw_egg_is_fried_until_the_egg_is_done(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    written(page, CONFIT, Part("duck-leg", "Duck leg"), Part("egg-pooled", "Eggs, broken together", "Beat"))
    verdict(page, "Beat: ")  # it is said whose core it is
    page.locator(".sh-card", has_text="Fry").click()
    page.locator("#field-duration_s").fill("25")
    verdict(page, MEETS)


def test_a_terrine_with_a_raw_layer_and_a_braise_chilled_twice(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/plans")
    written(page, TERRINE, Part("pork-mince", "Pork, minced"), Part("duck-liver", "Duck livers", "Livers"))
    verdict(page, "The meat leaves this plan raw")
    page.goto("/plans")
    written(page, BRAISE, Part("beef-chuck", "Beef chuck, for stewing"))
    verdict(page, MEETS)
    expect(page.locator(".sh-part")).to_have_count(0)

"""Equipment and people on the screen: a probe is checked, a person comes and goes."""

from collections.abc import Callable

from playwright.sync_api import Page, expect


def test_the_lead_checks_a_probe_and_adds_a_cook(visit: Callable[..., Page]) -> None:
    page = visit("lead", "/household")
    probe = page.get_by_role("listitem", name="Probe 2")
    probe.get_by_role("button", name="Check Probe 2").click()
    probe.get_by_label("As found").fill("2,4")
    probe.get_by_role("button", name="Save").click()
    expect(probe.get_by_role("status")).to_contain_text("set it right or take it out of use")
    probe.get_by_label("As found").fill("2,4")
    probe.get_by_label("As left, if set").fill("0,1")
    probe.get_by_role("button", name="Save").click()
    expect(probe.get_by_role("status")).to_contain_text("may be used until")
    form = page.get_by_role("form", name="Add a person")
    form.get_by_label("Name").fill("Aino Vahter")
    form.get_by_label("Password, 10 characters or more").fill("long-enough-1")
    form.get_by_role("button", name="Add a person").click()
    person = page.get_by_role("listitem", name="Aino Vahter")
    expect(person).to_be_visible()
    person.get_by_role("button", name="Keep out").click()
    expect(person.get_by_role("button", name="Let in")).to_be_visible()


def test_a_cook_does_not_see_it(visit: Callable[..., Page]) -> None:
    page = visit("cook", "/household")
    expect(page.get_by_text("The lead keeps kit and people in order.")).to_be_visible()

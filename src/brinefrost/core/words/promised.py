"""Which parts of the catalogue every language has whole: what a cook sees at the pass, and paper."""

# shift, pad, checks and labels, limits and their verdicts, logger files, and every refusal on the way there
PASS = (
    "api.", "core.", "kitchen.instruments.", "limits.", "runs.", "steps.", "traces.", "units.", "words.",
    "working.",
    "services.accounts.", "services.household.", "services.office.", "services.running.", "services.shift.",
    "services.tracing.", "services.views.", "services.starting.", "store.",
    "plans.proof.", "plans.sheet.", "plans.suggest.", "paper.",
)  # fmt: skip
# of these titles, names, reasons and how far they hold
NAMED = ("law.us.", "law.uk.", "law.eu.", "law.anz.", "law.hazards.", "law.targets.", "law.organisms.")

AT_THE_DESK = ("law.presets.", "law.vegetables.", "law.media.")  # the rest of law: the templates


def promised(code: str) -> bool:
    """Whether every language has this code; valid for every code of the English catalogue."""
    return (
        code.startswith(PASS)
        or (code.startswith(NAMED) and code.endswith(("_title", "_name", "_reason", "_qualifier")))
        or (code.startswith("law.") and not code.startswith((*NAMED, *AT_THE_DESK)))
    )

"""Decision trees: from a hazard at a step to whether the step is a critical control point."""

from typing import Literal

from pydantic import Field

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document, Source

TreeId = Literal["codex-2003", "codex-2022"]
Outcome = Literal["ccp", "not_ccp", "modify", "open"]
MODIFY = "modify"


class Question(Document):
    """One question, and where yes and no lead: another question's id, or an outcome."""

    id: str
    text: Words
    yes: str
    no: str


class Tree(Document):
    """A decision tree with its source."""

    id: TreeId
    name: Words
    first: str
    questions: tuple[Question, ...]
    source: Source

    def question(self, question_id: str) -> Question:
        """The question of an id."""
        return next(question for question in self.questions if question.id == question_id)


class Answer(Document):
    """A stored answer, with the reason given for it and by whom; ``by_step`` is the later step that does it."""

    question: str
    yes: bool
    reason: str = Field(default="", max_length=600)
    by: str = Field(default="", max_length=80)
    by_step: str = Field(default="", max_length=40)


# Wording shortened from the Codex texts; the logic is theirs.
TREES: dict[TreeId, Tree] = {
    "codex-2022": Tree(
        id="codex-2022",
        name=say("plans.decisions.codex_revised_2022"),
        first="prerequisite",
        questions=(
            Question(
                id="prerequisite",
                text=say("plans.decisions.do_good_hygiene_practices_alone_control"),
                yes="not_ccp",
                no="measure",
            ),
            Question(
                id="measure", text=say("plans.decisions.is_there_a_control_measure_for"), yes="later", no="modify"
            ),
            Question(
                id="later",
                text=say("plans.decisions.will_a_later_step_remove_it"),
                yes="not_ccp",
                no="specific",
            ),
            Question(
                id="specific",
                text=say("plans.decisions.can_this_step_itself_remove_it"),
                yes="ccp",
                no="modify",
            ),
        ),
        source=Source(citation="Codex CXC 1-1969, revision 2022, annex IV, figure 1", tag="published"),
    ),
    "codex-2003": Tree(
        id="codex-2003",
        name=say("plans.decisions.codex_four_questions_2003"),
        first="measure",
        questions=(
            Question(
                id="measure", text=say("plans.decisions.is_there_a_preventive_measure_for"), yes="designed", no="needed"
            ),
            Question(
                id="needed", text=say("plans.decisions.is_control_at_this_step_needed"), yes="modify", no="not_ccp"
            ),
            Question(
                id="designed",
                text=say("plans.decisions.is_the_step_made_to_remove"),
                yes="ccp",
                no="exceed",
            ),
            Question(id="exceed", text=say("plans.decisions.could_it_come_in_or_grow"), yes="later", no="not_ccp"),
            Question(
                id="later",
                text=say("plans.decisions.will_a_later_step_remove_it"),
                yes="not_ccp",
                no="ccp",
            ),
        ),
        source=Source(citation="Codex CAC/RCP 1-1969, revision 4 (2003), annex, diagram 2", tag="published"),
    ),
}


def outcome_of(tree_id: TreeId, answers: tuple[Answer, ...]) -> Outcome:
    """Follow the stored answers through a tree.

    ``open`` while the next question has no answer. Raises PlanIncompleteError if two answers are kept for one
    question. Valid for the trees in ``TREES``; answers to questions off the path are kept but not used. ``answers``
    [-]. Each tree carries its own.
    """
    tree, given = TREES[tree_id], {answer.question: answer for answer in answers}
    if len(given) != len(answers):
        raise PlanIncompleteError(say("plans.decisions.a_question_of_the_decision_tree"))
    place = tree.first
    while place not in ("ccp", "not_ccp", "modify"):
        if place not in given:
            return "open"
        question = tree.question(place)
        place = question.yes if given[place].yes else question.no
    return place  # type: ignore[return-value]  # the loop ends on an Outcome only


def path_of(tree_id: TreeId, answers: tuple[Answer, ...]) -> list[Question]:
    """The questions asked so far, with the next open one last."""
    tree, given = TREES[tree_id], {answer.question: answer for answer in answers}
    asked: list[Question] = []
    place = tree.first
    while place not in ("ccp", "not_ccp", "modify"):
        question = tree.question(place)
        asked.append(question)
        if place not in given:
            break
        place = question.yes if given[place].yes else question.no
    return asked

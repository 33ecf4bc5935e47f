"""Every question that is asked of a part: it answers under its own id, and its cures are inputs that there
are."""

import json
from pathlib import Path

import pytest
from metaspira.checks import questions, questions_of, run_checks
from metaspira.parts import part_of
from metaspira.recipe.model import Recipe, ThreadRecipe

DEMO = sorted((Path(__file__).parents[2] / "demo").glob("*.spira.json"))
KEYS = set(Recipe.model_fields) | set(ThreadRecipe.model_fields)


@pytest.mark.parametrize("file", DEMO, ids=lambda file: file.name.split(".")[0])
def test_each_question_is_answered_under_its_id_and_title(file):
    part = part_of(json.loads(file.read_text()))
    answers = run_checks(part)
    assert [answer.id for answer in answers] == list(questions_of(part))
    assert all(answer.title and answer.why and answer.decided for answer in answers)


def test_the_samples_ask_every_question():
    asked = {id for file in DEMO for id in questions_of(part_of(json.loads(file.read_text())))}
    assert {question.id for question in questions()} - asked <= {"spring-hands", "reference"}


def test_of_one_sort_of_part_each_is_asked_once():
    for file in DEMO:
        part = part_of(json.loads(file.read_text()))
        ids = [question.id for question in questions() if question.of(part)]
        assert len(ids) == len(set(ids))


@pytest.mark.parametrize(
    "question", questions(), ids=lambda question: f"{question.id} {question.kinds or question.told}"
)
def test_its_cures_are_inputs_of_a_recipe_and_it_is_told(question):
    assert question.asks
    assert question.stops or question.watches
    for cure in question.cures:
        assert cure.split("/")[1] in KEYS

"""Arithmetic with units: `"3/8 in"`, `"8 * wire"`, `"bore - 2*gap"`, `"1 1/2 in"`.

A unit belongs to the number (or the simple fraction, or the bracket) right before it, and is known
as a unit only there, so a variable may be called `m` or `in_`. Evaluation is `simpleeval` cut down to
arithmetic; every number is a float, so its time and memory are bounded by the length of the text.
"""

from __future__ import annotations

import ast
import math
import re
from collections.abc import Callable, Mapping
from functools import lru_cache, reduce
from typing import Any

import numpy as np
import simpleeval

from metaspira.numbers import jets
from metaspira.numbers.measure import (
    ANGLE,
    LENGTH,
    PLAIN,
    Dimension,
    Measure,
    dimension_name,
    unit,
    unit_names,
)
from metaspira.problems import nearest, suggested

MAX_CHARACTERS = 200

_NUMBER = r"(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
_TORQUE = r"(?:kN|N|lbf|kgf)(?:\s*·\s*|\s+)(?:mm|cm|m|in|ft)|(?:in|ft)(?:\s*·\s*|\s+)lbf"
_UNIT = rf"(?:{_TORQUE})(?![\w(])|[A-Za-zµμ°]+|\"|″|'|′"
_MARKS = {'"': "in", "″": "in", "'": "ft", "′": "ft"}
_MIXED = re.compile(rf"(?<![\w.])(\d+)\s+(\d+)\s*/\s*(\d+)(?:\s*({_UNIT})(?!\w)|(?![\w.]))")
_FRACTION = re.compile(rf"(?<![\w.])(\d+)\s*/\s*(\d+)\s*({_UNIT})(?![\w(])")
_WITH_UNIT = re.compile(rf"(?<![\w.])({_NUMBER})\s*({_UNIT})(?![\w(])")
_COMMA = re.compile(r"(?<=\d),(?=\d)")
_GROUPED = re.compile(r"(?<![\d.,])[1-9]\d{0,2}(?:,\d{3})+(?![\d,])")
_BRACKET = re.compile(rf"\)\s*({_UNIT})(?![\w(])")


class ExpressionError(Exception):
    """`reason` and `remedy` of a text that is not a usable number."""

    def __init__(self, reason: str, remedy: str):
        super().__init__(f"{reason}; {remedy}")
        self.reason = reason
        self.remedy = remedy


def evaluate(text: str, names: Mapping[str, Measure], unit_name: str) -> Measure:
    """The measure that `text` stands for.

    `names` are the variables it may use; `unit_name` is the recipe's unit of length, in which a plain
    number counts when it is added to a length. Raises ExpressionError.
    """
    arithmetic = _Arithmetic(unit(unit_name).value)
    evaluator = simpleeval.SimpleEval(
        operators=arithmetic.operators(), functions=arithmetic.functions(), names=dict(names)
    )
    evaluator.names.setdefault("pi", Measure(math.pi))
    evaluator.nodes = {
        ast.Constant: _constant,
        ast.BinOp: evaluator.nodes[ast.BinOp],
        ast.UnaryOp: evaluator.nodes[ast.UnaryOp],
        ast.Call: evaluator.nodes[ast.Call],
        ast.Name: lambda node: _name(node, evaluator.names),
    }
    tree = _parse(text)
    try:
        result = evaluator.eval(text, previously_parsed=tree.body)
    except ZeroDivisionError:
        raise ExpressionError(f"“{text}” divides by zero", "change the number below the line") from None
    except OverflowError:
        raise ExpressionError(f"“{text}” is too large", "use a smaller power") from None
    except simpleeval.FunctionNotDefined as error:
        name = str(error.func_name)
        hint = nearest(name, arithmetic.functions()) or "sqrt"
        raise ExpressionError(f"“{name}” is not a function here", f"try “{hint}”") from None
    except simpleeval.InvalidExpression:
        raise ExpressionError(
            f"“{text}” is more than arithmetic", "use + − × ÷, powers, brackets and functions"
        ) from None
    except (TypeError, ValueError, ArithmeticError) as error:
        raise ExpressionError(f"“{text}”: {error}", "correct the arithmetic") from None
    if not isinstance(result, Measure) or not jets.is_finite(result.value):
        raise ExpressionError(f"“{text}” is not a finite number", "correct the arithmetic")
    return result


def names_in(text: str) -> set[str]:
    """Names of variables that `text` uses (functions and units are not among them)."""
    tree = _parse(text)
    called = {id(node.func) for node in ast.walk(tree) if isinstance(node, ast.Call)}
    found = {node.id for node in ast.walk(tree) if isinstance(node, ast.Name) and id(node) not in called}
    return {name for name in found if not name.startswith("unit__")} - {"pi"}


@lru_cache(maxsize=512)
def _parse(text: str) -> ast.Expression:
    if len(text) > MAX_CHARACTERS:
        raise ExpressionError(f"the formula has {len(text)} characters", f"use {MAX_CHARACTERS} at most")
    if not text.strip():
        raise ExpressionError("it is empty", "type a number")
    code = _with_points(text).strip().replace("−", "-").replace("×", "*").replace("÷", "/").replace("^", "**")
    code = _MIXED.sub(_mixed, code)
    code = _FRACTION.sub(lambda m: f"(({m[1]}/{m[2]})*{_unit_code(m[3])})", code)
    code = _WITH_UNIT.sub(lambda m: f"({m[1]}*{_unit_code(m[2])})", code)
    code = _BRACKET.sub(lambda m: f")*{_unit_code(m[1])}", code)
    try:
        return ast.parse(code, mode="eval")
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        raise ExpressionError(
            f"“{text}” is not a number or a formula", "write it like “12.5”, “3/8 in” or “8 * wire”"
        ) from None


def _with_points(text: str) -> str:
    """`text` with decimal commas as points; within brackets a comma parts the arguments of a function."""
    if "(" in text or "," not in text:
        return text
    if (grouped := _GROUPED.search(text)) is not None:
        whole, point = grouped[0].replace(",", ""), grouped[0].replace(",", ".", 1)
        raise ExpressionError(f"“{grouped[0]}” may be {whole} or {point}", "write it without the comma")
    return _COMMA.sub(".", text)


def _mixed(match: re.Match[str]) -> str:
    sum_ = f"({match[1]}+{match[2]}/{match[3]})"
    return f"({sum_}*{_unit_code(match[4])})" if match[4] else sum_


def _unit_code(name: str) -> str:
    if len(factors := re.split(r"[·\s]+", name)) > 1:
        return "(" + "*".join(_unit_code(factor) for factor in factors) + ")"
    name = _MARKS.get(name, name)
    if name not in unit_names():
        hint = nearest(name, unit_names()) or "mm"
        raise ExpressionError(f"“{name}” is not a unit known here", f"try “{hint}”")
    return f"unit__{unit_names().index(name)}"


def _constant(node: ast.Constant) -> Measure:
    if isinstance(node.value, bool) or not isinstance(node.value, int | float):
        raise ArithmeticError("only numbers can be used here")
    return Measure(float(node.value))


def _name(node: ast.Name, names: Mapping[str, Measure]) -> Measure:
    if node.id.startswith("unit__"):
        return unit(unit_names()[int(node.id[6:])])
    if node.id in names:
        return names[node.id]
    remedy = suggested(node.id, names, f"add “{node.id}” to the variables")
    raise ExpressionError(f"there is no variable “{node.id}”", remedy)


class _Arithmetic:
    """The operations, with plain numbers taken in the unit of what they are added to."""

    def __init__(self, length_unit: float):
        self._plain_in: dict[Dimension, float] = {LENGTH: length_unit, ANGLE: math.pi / 180}

    def operators(self) -> dict[type[ast.AST], Callable[..., Measure]]:
        return {
            ast.Add: lambda a, b: self._sum(a, b, 1.0),
            ast.Sub: lambda a, b: self._sum(a, b, -1.0),
            ast.Mult: lambda a, b: a * b,
            ast.Div: lambda a, b: a / b,
            ast.Mod: self._remainder,
            ast.Pow: self._power,
            ast.UAdd: lambda a: a,
            ast.USub: lambda a: -a,
        }

    def functions(self) -> dict[str, Callable[..., Measure]]:
        return {
            "sqrt": lambda a: a**0.5,
            "abs": lambda a: Measure(jets.absolute(a.value), a.dimension),
            "min": lambda *a: self._extreme(jets.least, a),
            "max": lambda *a: self._extreme(jets.greatest, a),
            "round": lambda a: Measure(jets.stepwise(self._plain(a, "round"), np.round)),
            "floor": lambda a: Measure(jets.stepwise(self._plain(a, "floor"), np.floor)),
            "ceil": lambda a: Measure(jets.stepwise(self._plain(a, "ceil"), np.ceil)),
            "exp": lambda a: Measure(jets.exp(self._plain(a, "exp"))),
            "log": lambda a: Measure(jets.log(self._plain(a, "log"))),
            "sin": lambda a: Measure(jets.sin(self._angle(a))),
            "cos": lambda a: Measure(jets.cos(self._angle(a))),
            "tan": lambda a: Measure(jets.tan(self._angle(a))),
            "asin": lambda a: Measure(jets.asin(self._plain(a, "asin")), ANGLE),
            "acos": lambda a: Measure(jets.acos(self._plain(a, "acos")), ANGLE),
            "atan": lambda a: Measure(jets.atan(self._plain(a, "atan")), ANGLE),
        }

    def _alike(self, a: Measure, b: Measure) -> tuple[Measure, Measure]:
        if a.dimension == b.dimension:
            return a, b
        if a.is_plain and b.dimension in self._plain_in:
            return Measure(a.value * self._plain_in[b.dimension], b.dimension), b
        if b.is_plain and a.dimension in self._plain_in:
            return a, Measure(b.value * self._plain_in[a.dimension], a.dimension)
        raise ArithmeticError(
            f"{dimension_name(a.dimension)} and {dimension_name(b.dimension)} do not add up"
        )

    def _sum(self, a: Measure, b: Measure, sign: float) -> Measure:
        a, b = self._alike(a, b)
        return Measure(a.value + sign * b.value, a.dimension)

    def _remainder(self, a: Measure, b: Measure) -> Measure:
        a, b = self._alike(a, b)
        return Measure(jets.remainder(a.value, b.value), a.dimension)

    def _power(self, a: Measure, b: Measure) -> Measure:
        return a ** self._plain(b, "a power")

    def _extreme(self, pick: Callable[..., Any], values: tuple[Measure, ...]) -> Measure:
        if not values:
            raise ArithmeticError("min and max need a number")
        dimension = next((v.dimension for v in values if not v.is_plain), PLAIN)
        alike = [self._alike(v, Measure(0.0, dimension))[0] for v in values]
        return Measure(reduce(pick, (v.value for v in alike)), dimension)

    def _plain(self, a: Measure, name: str) -> Any:
        if not a.is_plain:
            raise ArithmeticError(f"{name} needs a plain number, not {dimension_name(a.dimension)}")
        return a.value

    def _angle(self, a: Measure) -> Any:
        if a.dimension not in (PLAIN, ANGLE):
            raise ArithmeticError(f"an angle is needed, not {dimension_name(a.dimension)}")
        return a.value

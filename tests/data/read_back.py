"""Reads what left the bench, as anybody's script would: the tables of the passes and the numbers for scripts, with NumPy.

read_back.py PAGE.html NUMBERS.json PASSES.csv     of a study
read_back.py PAGE.html NUMBERS.json                of a comparison

Works the effect of each case, and of all cases together, out from the passes, and looks for every percent of the page
among the numbers, to its last printed digit. Prints JSON: how many were looked at, and what does not hold.
"""
import csv
import html
import json
import re
import sys

import numpy as np


def mean_logs(passes):
    """The mean ln of the counted passes of each case and configuration: of visits, each the mean of its passes."""
    visits = {}
    for row in passes:
        if row["counted"] == "true":
            key = (row["case"], row["configuration"], row["visit"])
            visits.setdefault(key, []).append(np.log(float(row["value"])))
    levels = {}
    for (case, level, _), logs in visits.items():
        levels.setdefault((case, level), []).append(np.mean(logs))
    return {key: np.mean(means) for key, means in levels.items()}


def effects(numbers, logs):
    """What the numbers say of two configurations, and what follows from the passes."""
    signs = {one["case"]: -1 if one["metric"]["direction"] == "lower" else 1 for one in numbers["cases"]}

    def worked_out(cases, start, end):
        return 100 * np.expm1(np.mean([signs[one] * (logs[one, end] - logs[one, start]) for one in cases]))

    suite = (numbers.get("suite") or {}).get("cases", [])
    start, end = numbers["compared"]["from"], numbers["compared"]["to"]
    for one in numbers["cases"]:
        yield one["case"], one["effect"]["improvement_percent"], worked_out([one["case"]], start, end)
    if suite:
        yield "all", numbers["suite"]["improvement"]["percent"], worked_out(suite, start, end)
    for one in numbers.get("contrasts") or []:
        if one["at"] is None and one["kind"] in ("against_baseline", "step"):
            cases = suite if one["case"] == "all" else [one["case"]]
            said = one["improvement_percent"]
            yield one["case"] + " " + one["from"] + " " + one["to"], said, worked_out(cases, one["from"], one["to"])


def percents_in(value, key=""):
    """Numbers of which the numbers for scripts say that they are percent, or a share of a whole."""
    if isinstance(value, dict):
        if "channel" in value and value.get("scale") == "ratio" or value.get("unit") == "%":
            yield from (float(one) for name, one in value.items() if name.startswith("change") and isinstance(one, float))
            yield from (one["median"] for one in value.get("at", []) if value["unit"] == "%" and one["median"] is not None)
        for name, one in value.items():
            yield from percents_in(one, name)
    elif isinstance(value, list):
        for one in value:
            yield from percents_in(one, key)
    elif isinstance(value, str) and key == "evidence":
        yield from (float(one) for one in re.findall(r"([\d.]+) %", value))
    elif isinstance(value, (int, float)) and not isinstance(value, bool):
        if "percent" in key:
            yield float(value)
        elif key == "confidence" or "share" in key or "elasticity" in key:
            yield 100 * float(value)


def percents_of(page):
    """What is printed in percent in the page's tables and sentences, names of measures and pictures left out."""
    text = re.sub(r"<svg.*?</svg>|<style.*?</style>", " ", page, flags=re.S)
    text = html.unescape(re.sub(r"<[^>]*>", " ", text)).replace("\u00a0", " ").replace("\u2212", "-")
    text = re.sub(r"\b(1|0\.1) % lows?", " ", text)
    for found in re.finditer(r"([+-]?\d[\d,]*(?:\.\d+)?)(?: to ([+-]?\d[\d,]*(?:\.\d+)?))? %", text):
        for group in (1, 2):
            if found.group(group):
                yield found.group(group).replace(",", ""), text[max(0, found.start() - 60):found.end() + 10]


def main():
    page = open(sys.argv[1], encoding="utf-8").read()
    numbers = json.load(open(sys.argv[2], encoding="utf-8"))
    wrong = []
    looked = 0
    if len(sys.argv) > 3:
        logs = mean_logs(csv.DictReader(open(sys.argv[3], newline="", encoding="utf-8")))
        for what, said, follows in effects(numbers, logs):
            looked += 1
            if not np.isclose(said, follows, rtol=0, atol=1e-6):
                wrong.append(f"{what}: {said} is said, {follows} follows")
    known = np.abs(np.array(list(percents_in(numbers))))  # a loss is told as so much less
    for printed, where in percents_of(page):
        looked += 1
        digits = len(printed.partition(".")[2])
        if not np.any(np.abs(known - abs(float(printed))) <= 0.5000001 * 10.0 ** -digits):
            wrong.append(f"{printed} % is in no table: {where}")
    print(json.dumps({"looked_at": looked, "wrong": wrong}))


main()

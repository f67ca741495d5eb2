"""The engine on an open file, without a database or a server: `./yantai compute FILE`, `./yantai schema plan`."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import Annotated, Any

import typer
from pydantic import BaseModel

from yantai.formats.plan_document import BadPlan, PlanDocument, read_plan
from yantai.formats.plan_result import PlanResult, compute_plan, fill_sheet_csv
from yantai.formats.shopping_document import ShoppingDocument

BAD_FILE = 2
"""Exit code of a file that cannot be computed."""

SCHEMAS: dict[str, type[BaseModel]] = {
    "plan": PlanDocument,
    "plan-result": PlanResult,
    "shopping": ShoppingDocument,
}

cli = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)


@cli.command()
def compute(
    file: Annotated[str, typer.Argument(help="a plan document; - reads standard input")],
    *,
    csv: Annotated[bool, typer.Option("--csv", help="print the fill sheet instead")] = False,
) -> None:
    """Compute a plan document and print the result document."""
    try:
        text = sys.stdin.buffer.read() if file == "-" else Path(file).read_bytes()
    except OSError as error:
        sys.stderr.write(f"{file}: {error.strerror or error}. Give the path of a plan document.\n")
        raise typer.Exit(BAD_FILE) from None
    try:
        document = read_plan(text)
        result = compute_plan(document)
    except BadPlan as bad:
        for problem in bad.problems:
            sys.stderr.write(f"{file}: {problem.at or '/'}: {problem.message}\n")
        raise typer.Exit(BAD_FILE) from None
    sys.stdout.write(fill_sheet_csv(document, result) if csv else result.model_dump_json(indent=1) + "\n")


@cli.command()
def schema(name: Annotated[str, typer.Argument(help=" or ".join(SCHEMAS))]) -> None:
    """Print the JSON schema of a document."""
    if name not in SCHEMAS:
        sys.stderr.write(f"There is no schema “{name}”; there are: {', '.join(SCHEMAS)}.\n")
        raise typer.Exit(BAD_FILE)
    sys.stdout.write(schema_text(name))


def schema_text(name: str) -> str:
    """The JSON schema of a document as text, generated from its model."""
    made: dict[str, Any] = SCHEMAS[name].model_json_schema()
    return json.dumps({"$schema": "https://json-schema.org/draft/2020-12/schema", **made}, indent=1) + "\n"


if __name__ == "__main__":
    cli()

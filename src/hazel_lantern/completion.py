"""What a shell completes: made from the words of the command line, so that it never says something else."""

from __future__ import annotations

import argparse

from hazel_lantern.arguments import commands, parser

PROGRAM = "hazel-lantern"


def _words(command: argparse.ArgumentParser) -> list[tuple[str, tuple[str, ...], str]]:
    """Each option with what may follow it, and its help."""
    return [
        (max(action.option_strings, key=len), tuple(map(str, action.choices or ())), (action.help or "").split(";")[0])
        for action in command._actions  # noqa: SLF001
        if action.option_strings and action.help != argparse.SUPPRESS
    ]


def bash() -> str:
    """A completion script for bash."""
    every = commands(parser())
    cases = []
    for name, command in every.items():
        options = " ".join(option for option, _, _ in _words(command))
        chosen = [
            f'      {option}) COMPREPLY=($(compgen -W "{" ".join(choices)}" -- "$word")); return ;;'
            for option, choices, _ in _words(command)
            if choices
        ]
        before = ['    case "$before" in', *chosen, "    esac"] if chosen else []
        cases.append("\n".join([f"  {name})", *before, f'    words="{options}" ;;']))
    return "\n".join(
        [
            f"# bash completion of {PROGRAM}",
            "_hazel_lantern() {",
            '  local word="${COMP_WORDS[COMP_CWORD]}" before="${COMP_WORDS[COMP_CWORD-1]}" words=""',
            "  COMPREPLY=()",
            '  if [ "$COMP_CWORD" -eq 1 ]; then',
            f'    COMPREPLY=($(compgen -W "{" ".join(every)} --version --help" -- "$word")); return',
            "  fi",
            '  case "${COMP_WORDS[1]}" in',
            *cases,
            "  esac",
            '  if [[ "$word" == -* ]]; then COMPREPLY=($(compgen -W "$words" -- "$word"))',
            '  else COMPREPLY=($(compgen -f -- "$word")); fi',
            "}",
            f"complete -o filenames -F _hazel_lantern {PROGRAM}",
            "",
        ]
    )


def fish() -> str:
    """A completion script for fish."""
    rows = [f"# fish completion of {PROGRAM}"]
    for name, command in commands(parser()).items():
        rows.append(f"complete -c {PROGRAM} -n __fish_use_subcommand -f -a {name}")
        for option, choices, words in _words(command):
            follows = f" -x -a '{' '.join(choices)}'" if choices else ""
            said = words.replace("\\", "").replace("'", "\\'")
            rows.append(
                f"complete -c {PROGRAM} -n '__fish_seen_subcommand_from {name}' -l {option.lstrip('-')}{follows} -d "
                f"'{said}'"
            )
    return "\n".join([*rows, ""])

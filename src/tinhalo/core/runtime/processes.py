"""Work in a process of its own: it may take long, hold the interpreter's lock, hang or crash there."""

from __future__ import annotations

import multiprocessing
from collections.abc import Callable
from typing import Any

_processes = multiprocessing.get_context("forkserver")


def read_ahead(module: str) -> None:
    """Load a module into the process that all others are forked from; call it before the first of them is."""
    _processes.set_forkserver_preload([module])


def ask(work: Callable[..., None], arguments: tuple[Any, ...], glance: float, enough: Callable[[], bool]) -> Any:
    """The one thing that ``work`` sends through a connection.

    Args:
        work: a function at the top level of a module; its first argument is that connection.
        arguments: what else it gets.
        glance: seconds between questions whether it takes too long.
        enough: whether it does.
    Raises:
        TimeoutError: once ``enough`` says so.
        EOFError: when the process ended without an answer.
    """
    here, there = _processes.Pipe(duplex=False)
    child = _processes.Process(target=work, args=(there, *arguments), daemon=True)
    child.start()
    there.close()
    try:
        while not here.poll(glance):
            if enough():
                raise TimeoutError
        return here.recv()
    finally:
        here.close()
        child.kill()
        child.join()

"""Computes results away from the window: the newest request wins, older ones are given up."""

from __future__ import annotations

import threading
from time import perf_counter

from PySide6.QtCore import QObject, Signal

from ..core.errors import Cancelled, HollowKeelError
from ..core.job import Job
from ..core.pipeline import Pipeline, Results, Shape


class Planner(QObject):
    """Signals arrive in the thread this object lives in. Every request ends in `done`, `failed` or a newer one."""

    shape_ready = Signal(object)
    done = Signal(object, float)
    failed = Signal(object, str)
    progress = Signal(float)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._wake = threading.Condition()
        self._job: Job | None = None
        self._number = 0
        self._stop = False
        self._pipeline = Pipeline()
        self._thread = threading.Thread(target=self._work, name="planner", daemon=True)
        self._thread.start()

    def request(self, job: Job) -> None:
        """Compute this job; whatever was being computed is given up."""
        with self._wake:
            self._job, self._number = job, self._number + 1
            self._wake.notify()

    def cancel(self) -> None:
        """Give up what is being computed."""
        with self._wake:
            self._job, self._number = None, self._number + 1

    def stop(self) -> None:
        """End the thread and wait for it."""
        with self._wake:
            self._stop, self._number = True, self._number + 1
            self._wake.notify()
        self._thread.join()

    def _work(self) -> None:
        while True:
            with self._wake:
                while self._job is None and not self._stop:
                    self._wake.wait()
                if self._stop:
                    return
                job, number, self._job = self._job, self._number, None
            assert job is not None
            self._compute(job, number)

    def _compute(self, job: Job, number: int) -> None:
        started = perf_counter()
        last = started

        def tick(share: float) -> None:
            nonlocal last
            if number != self._number:
                raise Cancelled
            now = perf_counter()
            if now - last > 0.08:
                last = now
                self.progress.emit(share)

        try:
            tick(0.0)
            shape: Shape = self._pipeline.shape(job)
            tick(0.0)
            self.shape_ready.emit(shape)
            planking = self._pipeline.planking(shape, tick)
            tick(1.0)
            self.done.emit(Results(shape, planking), perf_counter() - started)
        except Cancelled:
            return
        except HollowKeelError as error:
            self.failed.emit(job, str(error))
        except Exception as error:
            # A fault of ours must be seen and must not take the builder's work with it.
            self.failed.emit(job, f"Hollow Keel could not work this out ({type(error).__name__}: {error}).")

"""Everything the application can do, around one database, for whoever carries it to people."""

from pathlib import Path

from nudge.services.book import Book
from nudge.services.bundles import Bundles
from nudge.services.circuit import Circuit
from nudge.services.clock import Clock, system_clock
from nudge.services.devices import Devices
from nudge.services.finding import Hit, find
from nudge.services.guests import Guests
from nudge.services.imports import Imports
from nudge.services.instruments import Instruments
from nudge.services.keeping import Keeping
from nudge.services.leaks import Leaks
from nudge.services.machine_settings import MachineSettings
from nudge.services.methods import Methods
from nudge.services.photos import Photos
from nudge.services.register import Register
from nudge.services.series import Series
from nudge.services.shelf import Shelf
from nudge.services.stream import Stream
from nudge.services.system_records import SystemRecords
from nudge.services.timed_tests import TimedTests
from nudge.services.today import Today, today
from nudge.services.visits import Visits
from nudge.services.work_order import Work
from nudge.services.workshop_card import WorkshopCard
from nudge.services.yard import Yard
from nudge.services.zones import Zones
from nudge.store.database import Database


class Workshop:
    """The use cases, wired to a database and a clock."""

    def __init__(self, database: Database, clock: Clock = system_clock) -> None:
        self.database, self._clock = database, clock
        self.stream = Stream(database)
        self.visits = Visits(database, clock, self.stream)
        self.instruments = Instruments(database, clock, self.stream)
        self.imports = Imports(database, clock, self.stream)
        self.series = Series(database)
        self.yard = Yard(database, clock, self.visits, self.instruments)
        self.book = Book(database, clock, self.visits.judge_again)
        self.shelf = Shelf(database, clock, self.visits, self.yard)
        self.methods = Methods(database, clock)
        self.records = SystemRecords(database, clock, self.visits)
        self.work = Work(database, clock, self.visits)
        self.circuit = Circuit(clock, self.visits, self.yard)
        self.settings = MachineSettings(database, clock, self.visits)
        self.tests = TimedTests(database, clock, self.visits)
        self.photos = Photos(database, clock)
        self.bundles = Bundles(database, clock)
        self.devices = Devices(database, clock)
        self.keeping = Keeping(database, clock)
        self.card = WorkshopCard(database, clock)
        self.register = Register(database, clock)
        self.zones = Zones(database, clock)
        self.guests = Guests(database, clock, self.visits)

    def today(self) -> Today:
        return today(self.database, self._clock())

    def leaking(self) -> list[Leaks]:
        """Systems that lose more a year than this workshop lets pass, the fastest first."""
        limit = self.shelf.threshold()
        return [
            one
            for one in self.shelf.leaks()
            if max(one.rolling or 0.0, one.annualised or 0.0) > limit
        ]

    def find(self, text: str) -> list[Hit]:
        """Sites, systems and visits by their words."""
        return find(self.database, text)

    def put_in_place(self, copy: Path) -> None:
        """Everything becomes what a copy holds. Raises: BadCopy, with nothing changed."""
        self.keeping.put_in_place(copy)
        self.yard.forget()

    def begin(self) -> None:
        """Take up what was left: imports that were cut short, simulated systems."""
        self.imports.recover()
        self.yard.run()
        self.keeping.begin()

    def close(self) -> None:
        self.keeping.close()
        self.imports.close()
        self.yard.close()
        self.database.close()

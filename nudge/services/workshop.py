"""Everything the application can do, around one database, for whoever carries it to people."""

from nudge.services.book import Book
from nudge.services.clock import Clock, system_clock
from nudge.services.imports import Imports
from nudge.services.instruments import Instruments
from nudge.services.methods import Methods
from nudge.services.series import Series
from nudge.services.shelf import Shelf
from nudge.services.stream import Stream
from nudge.services.today import Today, today
from nudge.services.visits import Visits
from nudge.services.yard import Yard
from nudge.store.database import Database


class Workshop:
    """The use cases, wired to a database and a clock."""

    def __init__(self, database: Database, clock: Clock = system_clock) -> None:
        self._database = database
        self.stream = Stream(database)
        self.visits = Visits(database, clock, self.stream)
        self.instruments = Instruments(database, clock, self.stream)
        self.imports = Imports(database, clock, self.stream)
        self.series = Series(database)
        self.yard = Yard(database, clock, self.visits, self.instruments)
        self.book = Book(database, clock)
        self.shelf = Shelf(database, clock, self.visits, self.yard)
        self.methods = Methods(database, clock)

    def today(self) -> Today:
        return today(self._database)

    def begin(self) -> None:
        """Take up what was left: imports that were cut short, simulated systems."""
        self.imports.recover()
        self.yard.run()

    def close(self) -> None:
        self.imports.close()
        self.yard.close()
        self._database.close()

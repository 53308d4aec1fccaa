"""The words of a ``rest`` slot, which may be very many."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from wesperon.argv import WordValue


class RestWords:
    """The words of a ``rest`` slot, as a series of ``WordValue`` that are made when somebody looks at them."""

    def __init__(self, words: Sequence[str], places: Sequence[int]) -> None:
        self.words = words
        self.places = places

    def __len__(self) -> int:
        return len(self.places)

    def __getitem__(self, at: int) -> WordValue:
        place = self.places[at]
        return WordValue(self.words[place], place)

    def __iter__(self) -> Iterator[WordValue]:
        return (WordValue(self.words[place], place) for place in self.places)

    @property
    def texts(self) -> list[str]:
        """The texts alone."""
        words = self.words
        return [words[place] for place in self.places]

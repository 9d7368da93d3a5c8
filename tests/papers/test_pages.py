"""Pages read by several threads at once: the reader bears one at a time, and is asked by one at a time."""

import unittest
from concurrent.futures import ThreadPoolExecutor
from datetime import date

from hearthkeep.papers import Audience, gather, page_image, page_texts, print_paper
from tests.support.designs import birchrow


class AtOnce(unittest.TestCase):
    def test_many_threads_get_the_same_pictures_and_texts_as_one(self):
        pdf = print_paper(gather(birchrow(), printed_on=date(2026, 11, 28)), Audience.SHOP).pdf
        alone = [page_image(pdf, number, 500) for number in (1, 2, 3)]
        texts = page_texts(pdf)
        with ThreadPoolExecutor(8) as threads:
            images = list(threads.map(lambda number: page_image(pdf, number, 500), [1, 2, 3] * 12))
            read = list(threads.map(lambda _: page_texts(pdf), range(12)))
        self.assertEqual(images, alone * 12)
        self.assertEqual(read, [texts] * 12)

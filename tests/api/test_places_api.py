"""Towns over the interface."""

from tests.support.api import ApiTest


class Towns(ApiTest):
    def test_a_town_with_position_and_standard_time(self):
        (first, *_) = self.client.get("/api/towns", params={"words": "kathmandu"}).json()
        self.assertEqual((first["name"], first["country"], first["utc_offset_h"]), ("Kathmandu", "Nepal", 5.75))

    def test_too_little_and_too_much_is_refused_by_its_field(self):
        for words in ("a", "x" * 81):
            answer = self.client.get("/api/towns", params={"words": words})
            self.assertEqual(answer.status_code, 422)
            self.assertIn("words", answer.json()["problems"][0]["field"])

"""Warnings read: what is signed and what only says so, and messages that mean harm."""

import unittest
from datetime import UTC, datetime

from hearthkeep.exchange import CapError, read_alert, read_alert_links
from hearthkeep.standins.alerts import WarningService

NOW = datetime(2026, 1, 20, tzinfo=UTC)
PLAIN = (
    '<alert xmlns="urn:oasis:names:tc:emergency:cap:1.2"><identifier>a1</identifier><sender>s@x.example</sender>'
    "<sent>2026-01-12T08:00:00-05:00</sent><status>Actual</status><msgType>Alert</msgType><scope>Public</scope>%s</alert>"
)


def plain(info=""):
    return (PLAIN % info).encode()


class Reading(unittest.TestCase):
    def test_the_least_that_a_message_says(self):
        alert = read_alert(plain())
        self.assertEqual(
            (alert.identifier, alert.headline, alert.areas, alert.is_signed, alert.is_exercise),
            ("a1", "", (), False, False),
        )
        self.assertEqual(alert.sent.astimezone(UTC).hour, 13)

    def test_english_is_taken_where_there_is_a_choice(self):
        info = "".join(
            f"<info><language>{tongue}</language><headline>{text}</headline><area><areaDesc>{text}</areaDesc></area></info>"
            for tongue, text in (("fr-CA", "Verglas"), ("en-CA", "Freezing rain"))
        )
        self.assertEqual(read_alert(plain(info)).headline, "Freezing rain")
        self.assertEqual(read_alert(plain(info.replace("en-CA", "de"))).headline, "Verglas")

    def test_what_is_missing_or_wrong_is_named(self):
        for before, after, told in (
            ("<identifier>a1</identifier>", "", "identifier"),
            ("2026-01-12T08:00:00-05:00", "soon", "sent"),
            ("2026-01-12T08:00:00-05:00", "2026-01-12T08:00:00", "sent"),
            ("Actual", "Maybe", "status"),
            ("Alert<", "Gossip<", "msgType"),
            ("cap:1.2", "cap:1.1", "CAP 1.2"),
        ):
            with self.assertRaisesRegex(CapError, told):
                read_alert(plain().replace(before.encode(), after.encode()))

    def test_entities_and_document_types_are_refused(self):
        bomb = b'<!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]>'
        outside = b'<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/hostname">]>'
        for head in (bomb, outside, b"<!DOCTYPE a>"):
            for certificate in (None, WarningService(datetime(2026, 1, 12), 9.0, 0.0).certificate):
                with self.assertRaisesRegex(CapError, "entities"):
                    read_alert(head + plain("<info><headline>&b;</headline></info>"), certificate)

    def test_a_megabyte_is_refused_before_it_is_read(self):
        with self.assertRaisesRegex(CapError, "256 kB"):
            read_alert(plain("<info>" + " " * 1_000_000 + "</info>"))

    def test_endless_texts_and_lists_are_cut(self):
        areas = "".join(f"<area><areaDesc>Area {number}</areaDesc></area>" for number in range(900))
        alert = read_alert(
            plain(f"<info><headline>{'x' * 5_000}</headline><description>{'y' * 9_000}</description>{areas}</info>")
        )
        self.assertEqual((len(alert.headline), len(alert.description), len(alert.areas)), (200, 4_000, 50))

    def test_links_of_a_list_each_once_and_not_without_end(self):
        links = "".join(f'<entry><link href="http://x.example/{number % 50}"/></entry>' for number in range(500))
        found = read_alert_links(f'<feed xmlns="http://www.w3.org/2005/Atom">{links}</feed>'.encode())
        self.assertEqual(len(found), 30)


class Signed(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.service = WarningService(datetime(2026, 1, 12, 17), 72.0, -5.0)
        cls.other = WarningService(datetime(2026, 1, 12, 17), 72.0, -5.0)
        cls.told = cls.service.sent_by(NOW)[1]
        cls.message = cls.service.message(cls.told)

    def test_its_own_key_only(self):
        self.assertTrue(read_alert(self.message, self.service.certificate).is_signed)
        for certificate in (
            None,
            "",
            self.other.certificate,
            "no certificate",
            "-----BEGIN CERTIFICATE-----\nAAAA\n-----END CERTIFICATE-----\n",
        ):
            self.assertFalse(read_alert(self.message, certificate).is_signed, certificate)

    def test_a_changed_word_is_not_signed_any_more(self):
        changed = self.message.replace(b"Extreme", b"Minor")
        self.assertNotEqual(changed, self.message)
        alert = read_alert(changed, self.service.certificate)
        self.assertEqual((alert.severity, alert.is_signed), ("Minor", False))

    def test_a_signed_part_inside_another_message_signs_nothing_of_that_one(self):
        inner = self.message.split(b"?>", 1)[1]
        wrapped = plain("<info><headline>All is over</headline></info>").replace(b"</alert>", inner + b"</alert>")
        alert = read_alert(wrapped, self.service.certificate)
        self.assertFalse(alert.is_signed and alert.headline == "All is over")

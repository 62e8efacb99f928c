"""The list of commands: menus, keys and the page of keys say the same."""

from __future__ import annotations

import unittest
from collections import Counter

from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QTextBrowser

from calveth.app.commands.menus import COMMANDS, MENUS, Command, all_commands, keys_page
from calveth.app.dialogs.help_dialog import HelpDialog
from tests.app.base import WindowTest


class TheList(unittest.TestCase):
    def test_ids_and_keys_are_used_once(self) -> None:
        commands = list(all_commands())
        self.assertEqual(len(COMMANDS), len(commands))
        keys = Counter(c.key for c in commands if c.key)
        self.assertEqual([k for k, n in keys.items() if n > 1], [])
        for command in commands:
            with self.subTest(command=command.id):
                self.assertRegex(command.help, r"^[A-Z].{8,}\.$")
                if command.key:
                    self.assertEqual(QKeySequence(command.key).toString(), command.key)

    def test_a_letter_chooses_one_entry_of_a_menu(self) -> None:
        for title, entries in MENUS:
            letters = Counter(
                e.title.partition("&")[2][:1].lower() for e in entries if isinstance(e, Command)
            )
            with self.subTest(menu=title):
                self.assertEqual([x for x, n in letters.items() if n > 1 or not x], [])

    def test_the_page_of_keys_names_them_all(self) -> None:
        page = keys_page()
        for command in all_commands():
            self.assertIn(command.plain_title.replace(" …", ""), page)
            self.assertIn(command.help, page)


class InTheWindow(WindowTest):
    def test_every_command_is_in_the_menus_with_its_key(self) -> None:
        window = self.window()
        self.assertEqual(set(window.menus.actions), set(COMMANDS))
        for name, command in COMMANDS.items():
            action = window.menus.actions[name]
            self.assertEqual(action.shortcut().toString(), command.key)
            self.assertEqual(action.isEnabled(), command.enabled(window.context), name)

    def test_switches_and_history_show_what_is(self) -> None:
        window = self.window()
        self.assertFalse(window.menus.actions["undo"].isEnabled())
        window.run("switch_units")
        self.assertTrue(window.menus.actions["switch_units"].isChecked())
        window.run("duplicate")
        self.assertTrue(window.menus.actions["undo"].isEnabled())
        self.assertIn("duplicate design", window.menus.actions["undo"].text())
        window.run("undo")
        self.assertFalse(window.menus.actions["undo"].isEnabled())

    def test_the_help_shows_the_page_of_keys(self) -> None:
        window = self.window()
        shown: list[str] = []

        def look(dialog: object) -> None:
            assert isinstance(dialog, HelpDialog)
            page = dialog.pages.currentWidget()
            assert isinstance(page, QTextBrowser)
            shown.append(page.toPlainText())

        self.prompts.dialogs = [look]
        window.run("keys")
        self.assertIn("Ctrl+Shift+Z", shown[0])


if __name__ == "__main__":
    unittest.main()

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.rows.SpreadsheetText;
import io.vacancy.cli.screen.Screen;
import io.vacancy.internal.text.VisibleText;
import java.util.function.UnaryOperator;
import picocli.CommandLine.Option;

/** How the result is written where rows may be listed. */
final class ListOptions extends OutputOptions {

    @Option(
            names = "--raw",
            description =
                    "In CSV, leave texts as they are that a spreadsheet would take for a formula. Without it an"
                            + " apostrophe stands before those that begin with = + - @ or a tab; --keys-from takes it away again.")
    private boolean raw;

    /** What becomes of texts in CSV that is written to a file. */
    UnaryOperator<String> textsOfCsv() {
        return raw ? UnaryOperator.identity() : SpreadsheetText::guarded;
    }

    /** The same where it is written on standard output, which may be a terminal. */
    UnaryOperator<String> textsOfCsv(Screen screen) {
        return screen.terminal() ? text -> VisibleText.lines(textsOfCsv().apply(text)) : textsOfCsv();
    }
}

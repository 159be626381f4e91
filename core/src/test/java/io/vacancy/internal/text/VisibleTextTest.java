// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.MisuseException;
import java.io.IOException;
import java.io.StringReader;
import org.junit.jupiter.api.Test;

class VisibleTextTest {

    @Test
    void whatActsIsShownAndNothingElseIsChanged() {
        for (String harmless : new String[] {"", "Osprey", "Ærø 12,5 €", "船", "\ud83d\udea2", "e\u0301", "\u200d"}) {
            assertThat(VisibleText.line(harmless)).isSameAs(harmless);
        }
        String acts = "\u0000\u0007\u001b\u007f\u0080\u009b\u009f\u061c\u200e\u200f\u202a\u202e\u2028\u2029\u2066\u2069"
                + "\ufdd0\ufdef\ufeff\ufffe\uffff\r\n\t";
        for (char c : acts.toCharArray()) {
            assertThat(VisibleText.line("a" + c + "b")).isEqualTo(String.format("a\\u%04xb", (int) c));
        }
        assertThat(VisibleText.lines("a\n\tb\r")).isEqualTo("a\n\tb\\u000d");
        assertThat(VisibleText.line("\ud83d")).isEqualTo("\\ud83d");
        assertThat(VisibleText.line("\udea2x")).isEqualTo("\\udea2x");
        assertThat(VisibleText.line("\udb40\udc41")).isEqualTo("\\udb40\\udc41");
        assertThat(new MisuseException("a\u001b[2J\nb", "c\u202e")).satisfies(told -> {
            assertThat(told).hasMessage("a\\u001b[2J\\u000ab");
            assertThat(told.hint()).isEqualTo("c\\u202e");
        });
    }

    @Test
    void passwordsAreTakenOutOfAddresses() {
        assertThat(Secrets.hidden("jdbc:x://me:geheim@host/db?user=me&password=geheim&ssl=1; PWD = geheim"))
                .isEqualTo("jdbc:x://me:…@host/db?user=me&password=…&ssl=1; PWD = …");
        assertThat(Secrets.hidden("no address, and a word about passwords"))
                .isEqualTo("no address, and a word about passwords");
    }

    @Test
    void linesAreReadUpToALimit() throws IOException {
        BoundedLines lines = new BoundedLines(new StringReader("one\r\ntwo\rthree\n\nfive"), 5);
        assertThat(new String[] {
                    lines.next(), lines.next(), lines.next(), lines.next(), lines.next(), lines.next(), lines.next()
                })
                .containsExactly("one", "two", "three", "", "five", null, null);
        assertThat(new BoundedLines(new StringReader(""), 5).next()).isNull();
        assertThat(new BoundedLines(new StringReader("\n"), 5).next()).isEmpty();
        assertThatThrownBy(() -> new BoundedLines(new StringReader("sixsix"), 5).next())
                .isInstanceOf(BoundedLines.TooLongException.class)
                .hasMessage("a line has more than 5 characters");
    }
}

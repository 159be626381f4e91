// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;

/** Somebody at a terminal who types a line whenever one is waited for, and nothing before that. */
final class TypedWhenAsked extends InputStream {

    private final ByteArrayInputStream lines;

    TypedWhenAsked(String typed) {
        lines = new ByteArrayInputStream(typed.getBytes(StandardCharsets.UTF_8));
    }

    @Override
    public int read() {
        return lines.read();
    }

    @Override
    public int read(byte[] into, int from, int most) {
        int count = 0;
        while (count < most) {
            int next = lines.read();
            if (next < 0) {
                return count == 0 ? -1 : count;
            }
            into[from + count] = (byte) next;
            count++;
            if (next == '\n') {
                break;
            }
        }
        return count;
    }

    @Override
    public int available() {
        return 0;
    }
}

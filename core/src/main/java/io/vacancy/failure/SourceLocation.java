// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

/**
 * Where something stands in a file.
 *
 * @param line counted from 1
 */
public record SourceLocation(String file, int line) {

    @Override
    public String toString() {
        return file + ", line " + line;
    }
}

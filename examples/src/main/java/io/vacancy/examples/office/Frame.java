// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples.office;

/** What every page of the office has. */
public record Frame(String title, Visitor visitor) {

    static Frame of(String title) {
        return new Frame(title, Visitor.present());
    }
}

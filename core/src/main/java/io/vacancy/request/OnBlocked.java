// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

/** What happens to a request whose rows are blocked. */
public enum OnBlocked {
    /** Nothing is changed, and the blockers are listed. */
    REFUSE("refuse"),
    /**
     * Those selected rows are left out that would take anything along that is blocked, and the rest goes. A
     * row that is left out may block another one, so this is repeated until it is stable.
     */
    SKIP("skip");

    private final String word;

    OnBlocked(String word) {
        this.word = word;
    }

    public String word() {
        return word;
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import org.jspecify.annotations.Nullable;

/**
 * The first place where a trail is not what was sealed.
 *
 * @param position in the chain, from 1; 0 for an entry that is in no chain
 * @param entry the identifier of the entry, or null where nothing tells
 * @param message what is wrong, in a sentence or two
 */
public record IntegrityViolation(
        Kind kind, long position, @Nullable String entry, String message) {

    /** What can be told of what somebody did. */
    public enum Kind {
        /** An entry is not what was sealed at its place: it was changed, or stands elsewhere. */
        CHANGED("changed"),
        /** An entry or its seal is gone. */
        REMOVED("removed"),
        /** An entry is there that no seal waits for. */
        INSERTED("inserted"),
        /** The chain ends before, or elsewhere than, the head says. */
        CUT("cut");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }
}

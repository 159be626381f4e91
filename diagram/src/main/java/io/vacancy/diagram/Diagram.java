// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import java.util.List;

/**
 * What is drawn: tables as boxes, relations as arrows from the parent to the child, for that is the way in
 * which a deletion goes. Plain immutable data; {@link Drawing} lays it out.
 *
 * @param title stands above it
 * @param notes sentences that stand below it
 * @param boxes each table once
 * @param arrows between tables that have a box
 */
public record Diagram(String title, List<String> notes, List<Box> boxes, List<Arrow> arrows) {

    public Diagram {
        notes = List.copyOf(notes);
        boxes = List.copyOf(boxes);
        arrows = List.copyOf(arrows);
    }

    /**
     * A table.
     *
     * @param lines what stands under its name
     */
    public record Box(String table, List<String> lines, Look look) {
        public Box {
            lines = List.copyOf(lines);
        }
    }

    /**
     * A relation.
     *
     * @param label the rule, and the columns
     */
    public record Arrow(String parent, String child, List<String> label, Look look) {
        public Arrow {
            label = List.copyOf(label);
        }
    }

    /** What becomes of rows. Each has a line and an end of its own, so that no colour is needed. */
    public enum Look {
        PLAIN("not touched"),
        LEAVE("stays as it is"),
        SET_NULL("stays and loses the link"),
        REASSIGN("stays and gets another parent"),
        BLANK("stays and is blanked"),
        GOES("is deleted"),
        SELECTED("selected, and is deleted"),
        BLOCKS("blocks the deletion");

        private final String words;

        Look(String words) {
            this.words = words;
        }

        /** What it says, for a legend. */
        public String words() {
            return words;
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import io.vacancy.diagram.Diagram.Arrow;
import io.vacancy.diagram.Diagram.Box;
import io.vacancy.diagram.Diagram.Look;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** A diagram as the text of a Mermaid flowchart, for documents that draw it themselves. */
final class Mermaid {

    private Mermaid() {}

    static String of(Diagram diagram) {
        StringBuilder text = new StringBuilder("flowchart LR\n");
        Map<String, String> ids = new HashMap<>();
        for (Box box : diagram.boxes()) {
            String id = "t" + ids.size();
            ids.put(box.table(), id);
            String label = "<b>" + clean(box.table()) + "</b>"
                    + box.lines().stream().map(line -> "<br/>" + clean(line)).collect(Collectors.joining());
            boolean blocks = box.look() == Look.BLOCKS;
            text.append("    " + id + (blocks ? "[[\"" : "[\"") + label + (blocks ? "\"]]\n" : "\"]\n"));
        }
        for (Arrow arrow : diagram.arrows()) {
            text.append("    " + ids.get(arrow.parent()) + " " + line(arrow.look()) + "|\"" + label(arrow.label())
                    + "\"| " + ids.get(arrow.child()) + "\n");
        }
        return text.toString();
    }

    private static String line(Look look) {
        return switch (look) {
            case GOES, SELECTED -> "==>";
            case BLOCKS -> "--x";
            case SET_NULL, REASSIGN, BLANK -> "-.->";
            case LEAVE, PLAIN -> "---";
        };
    }

    private static String label(List<String> lines) {
        return lines.stream().map(Mermaid::clean).collect(Collectors.joining("<br/>"));
    }

    /** Mermaid's own escapes, by a number sign. */
    private static String clean(String text) {
        return text.replaceAll("\\p{Cntrl}", " ")
                .replace("#", "#35;")
                .replace("\"", "#quot;")
                .replace("<", "#lt;")
                .replace(">", "#gt;");
    }
}

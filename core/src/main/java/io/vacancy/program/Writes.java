package io.vacancy.program;

import io.vacancy.rules.Assignment;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;

/**
 * What is written into rows besides their links.
 *
 * @param marks into the rows that are marked or come back, by table
 * @param stamps into rows that stay and are changed, by table: who changed them, and when
 * @param parents into parents of rows that go, come back or are changed
 */
public record Writes(
        Map<TableName, List<Assignment>> marks, Map<TableName, List<Assignment>> stamps, List<Parent> parents) {

    public static final Writes NONE = new Writes(Map.of(), Map.of(), List.of());

    public Writes {
        marks = Map.copyOf(marks);
        stamps = Map.copyOf(stamps);
        parents = List.copyOf(parents);
    }

    /** What is written into the rows that rows of a table refer to. */
    public record Parent(Relation relation, List<Assignment> stamps) {
        public Parent {
            stamps = List.copyOf(stamps);
        }
    }
}

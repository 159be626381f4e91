package io.vacancy.program;

import io.vacancy.rules.Assignment;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;

/**
 * What is written into rows besides their links.
 *
 * @param marks into the rows that are marked or come back, by table
 * @param stamps into rows that stay and are changed, by table: who changed them, and when
 */
public record Writes(Map<TableName, List<Assignment>> marks, Map<TableName, List<Assignment>> stamps) {

    public static final Writes NONE = new Writes(Map.of(), Map.of());

    public Writes {
        marks = Map.copyOf(marks);
        stamps = Map.copyOf(stamps);
    }
}

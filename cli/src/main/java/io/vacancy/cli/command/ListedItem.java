// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.json.JsonWriter;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.function.Function;

/**
 * How an item of a list is written for a program.
 *
 * @param name of the list in a JSON document
 * @param json an item on one line
 * @param columns of a table of items
 * @param rows an item as rows of that table
 */
record ListedItem<T>(String name, Function<T, String> json, List<String> columns, Function<T, List<Row>> rows) {

    /** Rows of a table are what they are. */
    static ListedItem<Row> row(List<String> columns) {
        return new ListedItem<>("rows", new JsonWriter()::line, columns, List::of);
    }
}

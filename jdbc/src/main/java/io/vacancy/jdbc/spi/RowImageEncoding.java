// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;
import java.util.List;
import java.util.stream.IntStream;

/**
 * How an image holds the values of a row: each as a cell, which is a text or whatever else keeps every digit on that
 * engine. Which form was measured best is in docs/measurements.md.
 */
public abstract class RowImageEncoding {

    /** The columns of the table of images that hold cells, as they are defined. */
    public abstract List<String> definitions();

    /** The names of the columns into which so many cells go. */
    public abstract List<String> columns(int cells);

    /** How many cells an image has room for. */
    public int width() {
        return Integer.MAX_VALUE;
    }

    /** The values of those columns for these cells. */
    public abstract List<String> packed(List<String> cells, List<ColumnType> types);

    /**
     * A cell of the image under an alias.
     *
     * @param index from 0
     * @param type of the column it was made from
     */
    public abstract String cell(String alias, int index, ColumnType type);

    /** All cells in one array of texts. */
    public static final class OneArray extends RowImageEncoding {

        @Override
        public List<String> definitions() {
            return List.of("cells TEXT[]");
        }

        @Override
        public List<String> columns(int cells) {
            return List.of("cells");
        }

        @Override
        public List<String> packed(List<String> cells, List<ColumnType> types) {
            return List.of("ARRAY[" + String.join(", ", cells) + "]");
        }

        @Override
        public String cell(String alias, int index, ColumnType type) {
            return alias + ".cells[" + (index + 1) + "]";
        }
    }

    /** Each cell in a column of its own. */
    public static final class OwnColumns extends RowImageEncoding {

        private static final int WIDTH = 128;

        private final String type;

        public OwnColumns(String type) {
            this.type = type;
        }

        @Override
        public List<String> definitions() {
            return columns(WIDTH).stream()
                    .map(name -> (name + " " + type).strip())
                    .toList();
        }

        @Override
        public List<String> columns(int cells) {
            return IntStream.range(0, cells).mapToObj(i -> "c" + i).toList();
        }

        @Override
        public int width() {
            return WIDTH;
        }

        @Override
        public List<String> packed(List<String> cells, List<ColumnType> types) {
            return cells;
        }

        @Override
        public String cell(String alias, int index, ColumnType of) {
            return alias + ".c" + index;
        }
    }
}

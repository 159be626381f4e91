// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.ColumnType;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

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

    /** Those of the columns that were not there before tables had a column for what the others have no room for. */
    public List<String> overflow() {
        return List.of();
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

    /** Cells in one value, for those that no column is left for. */
    public interface Overflow {

        /** Few cells, or few values that have several cells each, in one value. */
        String join(List<String> parts);

        /** One cell out of it. */
        String part(String joined, int first, int second);

        /** A cell as it can be joined with others. */
        default String toPart(String cell) {
            return cell;
        }
    }

    /** Each cell in a column of its own, and those for which there is none together in one. */
    public static final class OwnColumns extends RowImageEncoding {

        private static final int WIDTH = 128;
        /** As many arguments as a function may have on every engine. */
        private static final int JOINED = 100;

        private static final String REST = "rest";

        private final String type;
        private final @Nullable Overflow overflow;

        /** @param overflow how further cells are joined; null where an image has no room for any */
        public OwnColumns(String type, @Nullable Overflow overflow) {
            this.type = type;
            this.overflow = overflow;
        }

        @Override
        public int width() {
            return overflow == null ? WIDTH : super.width();
        }

        @Override
        public List<String> definitions() {
            return columns(overflow == null ? WIDTH : WIDTH + 1).stream()
                    .map(this::defined)
                    .toList();
        }

        @Override
        public List<String> overflow() {
            return overflow == null ? List.of() : List.of(defined(REST));
        }

        private String defined(String name) {
            return (name + " " + type).strip();
        }

        @Override
        public List<String> columns(int cells) {
            Stream<String> own = IntStream.range(0, Math.min(cells, WIDTH)).mapToObj(i -> "c" + i);
            return (cells > WIDTH ? Stream.concat(own, Stream.of(REST)) : own).toList();
        }

        @Override
        public List<String> packed(List<String> cells, List<ColumnType> types) {
            Overflow joining = overflow;
            if (cells.size() <= WIDTH || joining == null) {
                return cells;
            }
            List<String> packed = new ArrayList<>(cells.subList(0, WIDTH));
            List<String> joined = new ArrayList<>();
            for (int i = WIDTH; i < cells.size(); i += JOINED) {
                joined.add(joining.join(cells.subList(i, Math.min(i + JOINED, cells.size())).stream()
                        .map(joining::toPart)
                        .toList()));
            }
            packed.add(joining.join(joined));
            return packed;
        }

        @Override
        public String cell(String alias, int index, ColumnType of) {
            int rest = index - WIDTH;
            return rest < 0 || overflow == null
                    ? alias + ".c" + index
                    : overflow.part(alias + "." + REST, rest / JOINED, rest % JOINED);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.request.Request;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.schema.Row;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Random conditions select the same rows on an engine as a plain evaluation with three truth values does, where
 * Java and the engine agree on equality and order: numbers, dates, truth values, lower-case letters without accents.
 * Each condition also goes through its text and its JSON and must come out as the same.
 */
class ConditionTest {

    private static final int CONDITIONS = Integer.getInteger("vacancy.conditions", 250);
    private static final int ROWS = 60;
    private static final List<String> COLUMNS = List.of("whole", "exact", "on_day", "truth", "word", "again");

    private final Random random = new Random(Long.getLong("vacancy.seed", 20_260_502L));
    private final Map<Long, List<Object>> rows = new TreeMap<>();

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void selectsWhatAPlainEvaluationSelects(Engine engine) throws SQLException {
        Database database = engine.fresh();
        fill(database);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .actor(() -> "Mira Holm")
                .open();
        int some = 0;
        for (int i = 0; i < CONDITIONS; i++) {
            Condition condition = condition(4);
            Set<Long> expected = new TreeSet<>();
            rows.forEach((id, row) -> {
                if (Boolean.TRUE.equals(holds(condition, row))) {
                    expected.add(id);
                }
            });

            assertThat(selected(vacancy, condition))
                    .as(ConditionText.of(condition))
                    .isEqualTo(expected);
            some += expected.isEmpty() || expected.size() == ROWS ? 0 : 1;
            Condition reread = SearchCondition.read(ConditionText.of(condition));
            assertThat(selected(vacancy, reread))
                    .as("as text: " + ConditionText.of(condition))
                    .isEqualTo(expected);
            Condition again = JsonReader.condition(new JsonWriter().write(condition));
            assertThat(again).isEqualTo(condition);
        }
        assertThat(some).as("conditions that are neither none nor all").isGreaterThan(CONDITIONS / 3);
    }

    private static Set<Long> selected(Vacancy vacancy, Condition condition) {
        try (Stream<Row> selected = vacancy.rows(Request.delete("buoy").where(condition))) {
            return new TreeSet<>(selected.map(row -> (Long) row.get("id")).toList());
        }
    }

    private void fill(Database database) throws SQLException {
        database.run(
                "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY, whole INTEGER, exact DECIMAL(8,2), on_day DATE,"
                        + " truth BOOLEAN, word VARCHAR(20), again INTEGER)");
        try (Connection connection = database.connect();
                PreparedStatement insert =
                        connection.prepareStatement("INSERT INTO buoy VALUES (?, ?, ?, ?, ?, ?, ?)")) {
            for (long id = 1; id <= ROWS; id++) {
                List<Object> row = new ArrayList<>();
                insert.setLong(1, id);
                for (int column = 0; column < COLUMNS.size(); column++) {
                    Object value = random.nextInt(4) == 0 ? null : value(column);
                    row.add(value);
                    boolean asText = value instanceof LocalDate && database.engine() == Engine.SQLITE;
                    boolean asNumber = value instanceof BigDecimal && database.engine() == Engine.SQLITE;
                    insert.setObject(
                            column + 2,
                            asText ? value.toString() : asNumber ? (Object) ((BigDecimal) value).doubleValue() : value);
                }
                insert.executeUpdate();
                rows.put(id, row);
            }
        }
    }

    private Object value(int column) {
        return switch (COLUMNS.get(column)) {
            case "whole", "again" -> (long) random.nextInt(9) - 4;
            case "exact" -> BigDecimal.valueOf(random.nextInt(20) * 25L, 2);
            case "on_day" -> LocalDate.of(2020, 1, 1).plusDays(random.nextInt(8) * 100L);
            case "truth" -> random.nextBoolean();
            default -> List.of("a", "ab", "abc", "b_c", "b%c", "ba", "c").get(random.nextInt(7));
        };
    }

    private Condition condition(int depth) {
        if (depth > 0 && random.nextInt(3) > 0) {
            return switch (random.nextInt(3)) {
                case 0 -> condition(depth - 1).and(condition(depth - 1));
                case 1 -> condition(depth - 1).or(condition(depth - 1));
                default -> condition(depth - 1).not();
            };
        }
        int column = random.nextInt(COLUMNS.size());
        String name = COLUMNS.get(column);
        // How texts are ordered is for the engine's collation to say.
        Condition.Comparison comparison = Condition.Comparison.values()[random.nextInt(name.equals("word") ? 2 : 6)];
        return switch (random.nextInt(6)) {
            case 0 -> ColumnRef.column(name).isNull();
            case 1 -> ColumnRef.column(name).in(List.of(value(column), value(column)));
            case 2 -> new Condition.CompareColumns("whole", Condition.Comparison.values()[random.nextInt(6)], "again");
            case 3 -> new Condition.Is("truth", random.nextBoolean());
            case 4 ->
                ColumnRef.column("word")
                        .like(List.of("a%", "_b%", "%c", "b\\%c", "b\\_c", "%").get(random.nextInt(6)));
            default ->
                name.equals("truth")
                        ? ColumnRef.column(name).equalTo(random.nextBoolean())
                        : new Condition.Compare(name, comparison, value(column));
        };
    }

    /** True, false, or null for unknown. */
    private static Boolean holds(Condition condition, List<Object> row) {
        if (condition instanceof Condition.Compare compare) {
            return compared(of(row, compare.column()), compare.comparison(), compare.value());
        }
        if (condition instanceof Condition.CompareColumns compare) {
            return compared(of(row, compare.column()), compare.comparison(), of(row, compare.other()));
        }
        if (condition instanceof Condition.OneOf oneOf) {
            Object value = of(row, oneOf.column());
            return value == null ? null : (Boolean) oneOf.values().contains(value);
        }
        if (condition instanceof Condition.Like like) {
            Object value = of(row, like.column());
            String pattern = like.pattern()
                    .replaceAll("(?<!\\\\)%", ".*")
                    .replaceAll("(?<!\\\\)_", ".")
                    .replace("\\", "");
            return value == null ? null : (Boolean) value.toString().matches(pattern);
        }
        if (condition instanceof Condition.IsNull isNull) {
            return of(row, isNull.column()) == null;
        }
        if (condition instanceof Condition.Is is) {
            return Boolean.valueOf(is.truth()).equals(of(row, is.column()));
        }
        if (condition instanceof Condition.Not not) {
            Boolean part = holds(not.part(), row);
            return part == null ? null : (Boolean) !part;
        }
        boolean all = condition instanceof Condition.All;
        List<Condition> parts = all ? ((Condition.All) condition).parts() : ((Condition.Any) condition).parts();
        Boolean result = all;
        for (Condition part : parts) {
            Boolean truth = holds(part, row);
            if (truth != null && truth != all) {
                return truth;
            }
            result = truth == null ? null : result;
        }
        return result;
    }

    private static Object of(List<Object> row, String column) {
        return row.get(COLUMNS.indexOf(column));
    }

    @SuppressWarnings({"unchecked", "rawtypes"})
    private static Boolean compared(Object left, Condition.Comparison comparison, Object right) {
        if (left == null || right == null) {
            return null;
        }
        int order = ((Comparable) left).compareTo(right);
        return switch (comparison) {
            case EQUAL -> order == 0;
            case NOT_EQUAL -> order != 0;
            case LESS -> order < 0;
            case AT_MOST -> order <= 0;
            case GREATER -> order > 0;
            case AT_LEAST -> order >= 0;
        };
    }
}

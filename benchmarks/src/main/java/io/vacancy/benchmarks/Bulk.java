// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.BigHarbour;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.awt.Color;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.knowm.xchart.BitmapEncoder;
import org.knowm.xchart.CategoryChart;
import org.knowm.xchart.CategoryChartBuilder;
import org.knowm.xchart.style.Styler;

/**
 * Half of a harbour goes by a condition: boats, their moorings, their power readings. Each way runs in a
 * transaction that is rolled back outside the time, so that all of them meet the same rows.
 */
final class Bulk {

    private static final int[] BOATS = {100, 1_000, 10_000};
    private static final int ROUNDS = Integer.getInteger("rounds", 5);

    private static final String NATIVE = "ON DELETE CASCADE, one statement";
    private static final String SCRIPT = "hand-written script";
    private static final String UNASKED = "Vacancy, withoutConfirmation";
    private static final String ASKED = "Vacancy, preview and answer";

    private static final Path RESULTS = Path.of("bulk.csv");

    private Bulk() {}

    static void run(Engine engine) throws Exception {
        double smallest = 0;
        for (int boats : BOATS) {
            Database database = engine.onDisk();
            try (Connection connection = database.connect()) {
                connection.setAutoCommit(false);
                BigHarbour.build(connection, boats);
                connection.commit();
                if (engine == Engine.POSTGRESQL) {
                    connection.setAutoCommit(true);
                    execute(connection, "VACUUM ANALYZE");
                    connection.setAutoCommit(false);
                }
                Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                        .actor(() -> "Mira Holm")
                        .open()
                        .within(connection);
                Request left = Request.delete("boat")
                        .where(ColumnRef.column("left_on").before("2021-01-01"))
                        .withoutConfirmation("measured");
                Rounds rounds = new Rounds()
                        .afterEach(connection::rollback)
                        .way(SCRIPT, () -> script(connection))
                        .way(NATIVE, () -> execute(connection, "DELETE FROM boat WHERE left_on < '2021-01-01'"))
                        .way(
                                UNASKED,
                                () -> check(
                                        vacancy.execute(left).receiptOrThrow().rows(), boats))
                        .way(ASKED, () -> {
                            Preview seen = vacancy.preview(left);
                            vacancy.execute(
                                            seen,
                                            seen.question()
                                                    .answer(seen.question().awaited()))
                                    .receiptOrThrow();
                        })
                        .run(1, ROUNDS);
                rounds.print("Half of " + 111 * boats + " rows, " + engine);
                smallest = boats == BOATS[0] ? rounds.median(UNASKED) : smallest;
                if (boats == BOATS[BOATS.length - 1]) {
                    System.out.printf(
                            "  Vacancy, withoutConfirmation: %d times the rows take %.0f times as long%n",
                            boats / BOATS[0], rounds.median(UNASKED) / smallest);
                    keep(engine, rounds);
                }
            }
        }
    }

    private static void check(long rows, int boats) {
        if (rows != boats / 2) {
            throw new IllegalStateException(rows + " rows went");
        }
    }

    /** Children first by nested sub-queries: of the scripts that were tried the best, or within a tenth of it. */
    private static void script(Connection connection) throws SQLException {
        String boats = "SELECT id FROM boat WHERE left_on < '2021-01-01'";
        String moorings = "SELECT id FROM mooring WHERE boat_id IN (" + boats + ")";
        execute(connection, "DELETE FROM power_reading WHERE mooring_id IN (" + moorings + ")");
        execute(connection, "DELETE FROM mooring WHERE boat_id IN (" + boats + ")");
        execute(connection, "DELETE FROM boat WHERE left_on < '2021-01-01'");
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private static void keep(Engine engine, Rounds rounds) throws IOException {
        if (!Files.exists(RESULTS)) {
            Files.writeString(RESULTS, "engine,way,times the script\n");
        }
        for (String way : List.of(NATIVE, UNASKED, ASKED)) {
            String line = String.format(Locale.ROOT, "%s,\"%s\",%.2f%n", engine, way, rounds.ratio(way));
            Files.writeString(RESULTS, line, StandardOpenOption.APPEND);
        }
    }

    /** Draws what bulk.csv in the current folder has. */
    static void chart() throws IOException {
        Map<String, Map<String, Double>> ways = new LinkedHashMap<>();
        for (String line : Files.readAllLines(RESULTS)) {
            String[] parts = line.split(",\"?|\",");
            if (!line.startsWith("engine")) {
                String way = line.substring(line.indexOf('"') + 1, line.lastIndexOf('"'));
                ways.computeIfAbsent(way, none -> new LinkedHashMap<>())
                        .put(parts[0], Double.parseDouble(line.substring(line.lastIndexOf(',') + 1)));
            }
        }
        CategoryChart chart = new CategoryChartBuilder()
                .width(1000)
                .height(520)
                .title("Deleting 555,000 of 1,110,000 rows by a condition, against a hand-written script (1.0)")
                .yAxisTitle("times the script's time; less is better")
                .build();
        chart.getStyler().setLegendPosition(Styler.LegendPosition.OutsideS);
        chart.getStyler().setLegendLayout(Styler.LegendLayout.Horizontal);
        chart.getStyler().setLegendBorderColor(Color.WHITE);
        chart.getStyler().setChartBackgroundColor(Color.WHITE);
        chart.getStyler().setPlotBorderVisible(false);
        chart.getStyler().setPlotGridVerticalLinesVisible(false);
        chart.getStyler().setSeriesColors(new Color[] {new Color(0x9AA5B1), new Color(0x6FB7C9), new Color(0xE0A458)});
        chart.getStyler().setLabelsVisible(true);
        chart.getStyler().setLabelsPosition(1.0);
        chart.getStyler().setLabelsFontColorAutomaticEnabled(false);
        chart.getStyler().setLabelsFontColor(Color.BLACK);
        chart.getStyler().setDecimalPattern("0.00");
        chart.getStyler().setYAxisMin(0.0);
        ways.forEach((way, ratios) ->
                chart.addSeries(way, new ArrayList<>(ratios.keySet()), new ArrayList<>(ratios.values())));
        BitmapEncoder.saveBitmap(chart, "bulk.png", BitmapEncoder.BitmapFormat.PNG);
        System.out.println("bulk.csv and bulk.png are in this folder");
    }
}

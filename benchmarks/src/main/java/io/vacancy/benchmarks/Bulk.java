// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.awt.Color;
import java.io.IOException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
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

    private static final int[] BOATS = {100, Integer.getInteger("boats", 10_000)};
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private static final String NATIVE = "ON DELETE CASCADE, one statement";
    private static final String SCRIPT = "script of three deletes";
    private static final String COUNTS = "the three counts by hand";
    private static final String UNASKED = "Vacancy, nobody asked";
    private static final String ASKED = "Vacancy, preview, answer, deletion";
    private static final String LOOKED_AT = "Vacancy, preview alone";

    private Bulk() {}

    private static String work(int boats, Engine engine) {
        return "Half of " + 111 * boats + " rows, " + engine;
    }

    static void run(Engine engine, Ratios ratios) throws Exception {
        double smallest = 0;
        for (int boats : BOATS) {
            Database database = engine.onDisk();
            RoundTrips trips = new RoundTrips();
            try (Connection connection = database.connect()) {
                BigHarbours.fill(engine, connection, boats);
                Connection counted = trips.counted(connection);
                Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                        .actor(() -> "Mira Holm")
                        .open()
                        .within(counted);
                Request left = Request.delete("boat")
                        .where(ColumnRef.column("left_on").before("2021-01-01"))
                        .withoutConfirmation("measured");
                boolean few = boats == BOATS[0];
                Rounds rounds = new Rounds(work(boats, engine), trips)
                        .afterEach(connection::rollback)
                        .way(SCRIPT, () -> script(counted))
                        .way(
                                UNASKED,
                                SCRIPT,
                                () -> check(
                                        vacancy.execute(left).receiptOrThrow().rows(), boats))
                        .way(
                                NATIVE,
                                SCRIPT,
                                () -> BigHarbours.execute(counted, "DELETE FROM boat WHERE left_on < '2021-01-01'"))
                        .compare(UNASKED, NATIVE)
                        .way(ASKED, SCRIPT, () -> {
                            Preview seen = vacancy.preview(left);
                            vacancy.execute(
                                            seen,
                                            seen.question()
                                                    .answer(seen.question().awaited()))
                                    .receiptOrThrow();
                        })
                        .way(COUNTS, () -> counts(counted))
                        .way(LOOKED_AT, COUNTS, () -> vacancy.preview(left))
                        .run(few ? 30 : 1, few ? 5 * ROUNDS : ROUNDS)
                        .report(ratios);
                smallest = few ? rounds.median(UNASKED) : smallest;
                if (!few) {
                    System.out.printf(
                            "  Vacancy, nobody asked: %d times the rows take %.0f times as long%n",
                            boats / BOATS[0], rounds.median(UNASKED) / smallest);
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
        BigHarbours.execute(connection, "DELETE FROM power_reading WHERE mooring_id IN (" + moorings + ")");
        BigHarbours.execute(connection, "DELETE FROM mooring WHERE boat_id IN (" + boats + ")");
        BigHarbours.execute(connection, "DELETE FROM boat WHERE left_on < '2021-01-01'");
    }

    private static void counts(Connection connection) throws SQLException {
        String boats = "FROM boat WHERE left_on < '2021-01-01'";
        String moorings = "FROM mooring WHERE boat_id IN (SELECT id " + boats + ")";
        for (String what :
                List.of(boats, moorings, "FROM power_reading WHERE mooring_id IN (SELECT id " + moorings + ")")) {
            try (Statement statement = connection.createStatement();
                    ResultSet rows = statement.executeQuery("SELECT COUNT(*) " + what)) {
                rows.next();
            }
        }
    }

    /** Draws the ratios as they are known, into the current folder. */
    static void chart(Ratios ratios) throws IOException {
        Map<String, Map<String, Double>> ways = new LinkedHashMap<>();
        for (String way : List.of(NATIVE, UNASKED, ASKED)) {
            for (Engine engine : Engine.all()) {
                Double ratio = ratios.ratio(work(BOATS[1], engine), way, SCRIPT);
                if (ratio != null) {
                    ways.computeIfAbsent(way, none -> new LinkedHashMap<>()).put(engine.toString(), ratio);
                }
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
        ways.forEach((way, byEngine) ->
                chart.addSeries(way, new ArrayList<>(byEngine.keySet()), new ArrayList<>(byEngine.values())));
        BitmapEncoder.saveBitmap(chart, "bulk.png", BitmapEncoder.BitmapFormat.PNG);
        System.out.println("bulk.png is in this folder");
    }
}

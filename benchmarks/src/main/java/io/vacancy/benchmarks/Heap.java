// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.BigHarbour;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.lang.management.ManagementFactory;
import java.lang.management.MemoryPoolMXBean;
import java.lang.management.MemoryType;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.List;
import java.util.stream.LongStream;

/** Whether half of a harbour, or a million keys, pass in a process that has 64 MB of heap. */
final class Heap {

    private static final int[] BOATS = {100, Integer.getInteger("boats", 10_000)};

    private Heap() {}

    static void run(Engine engine) throws Exception {
        for (int boats : BOATS) {
            for (String way : List.of("condition", "keys", "asked", "back")) {
                Database database = engine.onDisk();
                try (Connection connection = database.connect()) {
                    connection.setAutoCommit(false);
                    BigHarbour.build(connection, boats);
                    connection.commit();
                }
                System.out.printf("%-10s %,9d rows, %-9s ", engine, 111 * boats, way);
                Process child = new ProcessBuilder(
                                Path.of(System.getProperty("java.home"), "bin", "java")
                                        .toString(),
                                "-Xmx64m",
                                "-cp",
                                System.getProperty("java.class.path"),
                                Child.class.getName(),
                                database.url(),
                                way,
                                Integer.toString(boats))
                        .redirectErrorStream(true)
                        .inheritIO()
                        .start();
                if (child.waitFor() != 0) {
                    throw new IllegalStateException(engine + " failed with 64 MB");
                }
            }
        }
    }

    /** The process with little heap: {@code URL condition|keys|asked|back BOATS}. */
    static final class Child {

        private Child() {}

        @SuppressWarnings("MustBeClosedChecker")
        private static HikariDataSource pool(String url) {
            HikariConfig config = new HikariConfig();
            config.setJdbcUrl(url);
            config.setMaximumPoolSize(2);
            return new HikariDataSource(config);
        }

        public static void main(String[] words) throws Exception {
            Vacancy vacancy = Vacancy.on(JdbcStore.of(pool(words[0])))
                    .actor(() -> "Mira Holm")
                    .open();
            int boats = Integer.parseInt(words[2]);
            Request request = words[1].equals("keys")
                    ? Request.delete("power_reading")
                            .keys(LongStream.range(0, 100L * boats).mapToObj(i -> i + 100))
                    : Request.delete("boat").where(ColumnRef.column("left_on").before("2021-01-01"));
            long start = System.nanoTime();
            long rows;
            if (words[1].equals("back")) {
                vacancy.archive().setUp();
                ReceiptId receipt = vacancy.execute(request.withoutConfirmation("measured"))
                        .receiptOrThrow()
                        .id();
                rows = vacancy.execute(Request.restore(receipt).withoutConfirmation("measured"))
                        .receiptOrThrow()
                        .totals()
                        .values()
                        .iterator()
                        .next();
            } else if (words[1].equals("asked")) {
                Preview seen = vacancy.preview(request);
                rows = vacancy.execute(
                                seen, seen.question().answer(seen.question().awaited()))
                        .receiptOrThrow()
                        .totals()
                        .values()
                        .iterator()
                        .next();
            } else {
                rows = vacancy.execute(request.withoutConfirmation("measured"))
                        .receiptOrThrow()
                        .totals()
                        .values()
                        .iterator()
                        .next();
            }
            long peak = ManagementFactory.getMemoryPoolMXBeans().stream()
                    .filter(pool -> pool.getType() == MemoryType.HEAP)
                    .map(MemoryPoolMXBean::getPeakUsage)
                    .mapToLong(usage -> usage.getUsed())
                    .sum();
            System.out.printf(
                    "%,9d went  %6.1f s  peak heap %3d MB%n", rows, (System.nanoTime() - start) / 1e9, peak >> 20);
        }
    }
}

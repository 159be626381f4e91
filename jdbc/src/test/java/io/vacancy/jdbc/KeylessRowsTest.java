// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.Engine;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;

/** Rows without a key, which only the engine tells apart, are all found, kept and restored. */
class KeylessRowsTest {

    @OnEveryEngine
    void ofAnIndexedTable(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE message (boat_id INTEGER NOT NULL, words VARCHAR(20),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1), (2), (3)",
                "INSERT INTO message VALUES (1, 'a'), (1, 'a'), (2, 'b'), (2, NULL), (3, 'c')");
        if (engine == Engine.MARIADB) {
            // It has no name for a row, and says so.
            assertThat(bench.vacancy().preview(Request.delete("boat").key(1)).state())
                    .isEqualTo(Preview.State.BLOCKED);
            return;
        }
        bench.vacancy().archive().setUp();
        Preview shown = bench.vacancy().preview(Request.delete("boat").keys(1, 2));
        assertThat(shown.effects().get(1).rows()).isEqualTo(4);
        assertThat(shown.effects().get(1).sample()).hasSize(3);
        assertThat(bench.vacancy()
                        .preview(Request.delete("message")
                                .where(column("boat_id").equalTo(2)))
                        .effects()
                        .get(0)
                        .rows())
                .isEqualTo(2);
        Receipt gone = bench.vacancy()
                .execute(Request.delete("boat").keys(1, 2).expect(2))
                .receiptOrThrow();
        assertThat(bench.count("message")).isEqualTo(1);
        bench.vacancy()
                .execute(Request.restore(gone.id()).withoutConfirmation("test"))
                .receiptOrThrow();
        assertThat(bench.count("message WHERE words = 'a'")).isEqualTo(2);
        assertThat(bench.count("message")).isEqualTo(5);
    }
}

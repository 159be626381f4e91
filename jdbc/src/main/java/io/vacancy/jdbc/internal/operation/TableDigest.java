// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.TextDigest;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;

/**
 * What rows of a table hold, in a few numbers that do not depend on their order: the sum of the SHA-256 of each, as in
 * "Incremental Multiset Hash Functions" (Clarke and others, 2003), there against somebody who chooses rows on purpose, here
 * against chance.
 *
 * @param rows how many there are
 */
record TableDigest(long rows, long first, long second, long third, long fourth) {

    static TableDigest of(Session session, Table table, Sql which) {
        Sum sum = new Sum();
        new Rows(session, table).each(which, StatementContext.of("comparing rows of", table.name()), sum::add);
        return new TableDigest(sum.rows, sum.parts[0], sum.parts[1], sum.parts[2], sum.parts[3]);
    }

    private static final class Sum {

        private final long[] parts = new long[4];
        private long rows;

        private void add(Row row) {
            MessageDigest digest = TextDigest.sha256();
            row.values().forEach((column, value) -> {
                byte[] bytes = value == null ? new byte[0] : value.toString().getBytes(StandardCharsets.UTF_8);
                digest.update((byte) (value == null ? 0 : 1));
                digest.update(
                        ByteBuffer.allocate(Integer.BYTES).putInt(bytes.length).flip());
                digest.update(bytes);
            });
            ByteBuffer result = ByteBuffer.wrap(digest.digest());
            for (int i = 0; i < parts.length; i++) {
                parts[i] += result.getLong();
            }
            rows++;
        }
    }
}

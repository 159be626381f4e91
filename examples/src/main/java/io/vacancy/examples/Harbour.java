// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.harbour.HarbourOffice;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import javax.sql.DataSource;
import org.sqlite.SQLiteDataSource;

/** A fresh harbour office in a temporary SQLite file for each example. */
final class Harbour {

    private Harbour() {}

    static DataSource fresh() {
        try {
            Path file = Files.createTempFile("harbour", ".db");
            file.toFile().deleteOnExit();
            SQLiteDataSource source = new SQLiteDataSource();
            source.setUrl("jdbc:sqlite:" + file);
            try (Connection connection = source.getConnection()) {
                HarbourOffice.build(connection);
            }
            return source;
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        } catch (SQLException failed) {
            throw new IllegalStateException(failed);
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.TableDefinitions;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;

/** MariaDB: what Vacancy's own tables are made of, and how numbers go on after rows came back. */
final class MariadbTableDefinitions implements TableDefinitions {

    /** Its TIMESTAMP ends in 2038, and fills itself. */
    @Override
    public String timeType() {
        return "DATETIME(6)";
    }

    /** Or 0 would be given the next number instead. */
    @Override
    public String keepingNumbers(Table table) {
        return table.columns().stream().anyMatch(Column::identity)
                ? "SET STATEMENT sql_mode = CONCAT(@@sql_mode, ',NO_AUTO_VALUE_ON_ZERO') FOR "
                : "";
    }

    @Override
    public String numberingImages() {
        return numbering();
    }

    @Override
    public String numbering() {
        return "BIGINT AUTO_INCREMENT PRIMARY KEY";
    }

    @Override
    public String longText() {
        return "LONGTEXT";
    }

    @Override
    public String tableOptions() {
        return " ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
    }
}

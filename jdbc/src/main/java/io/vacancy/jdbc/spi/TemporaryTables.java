// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Tables for keys and rows that one transaction needs. The defaults are standard SQL. */
public interface TemporaryTables {

    /** How names are written here. */
    Syntax syntax();

    /**
     * Whether key tables are tables like others that stay, made by a connection beside the transaction, because
     * temporary tables are not to be trusted.
     */
    default boolean sharesKeyTables() {
        return false;
    }

    /** Makes the table whose rows are locked by those who use shared key tables, with numbers from 0, if need be. */
    default String createKeySlots(String table, int many) {
        throw new UnsupportedOperationException("this engine has temporary tables");
    }

    /**
     * The statement that makes a key table, which must not end the transaction.
     *
     * @param identity the columns of which no two rows may be the same, or none
     */
    default String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return "CREATE TEMPORARY TABLE " + keyTable + " (" + String.join(", ", columnDefinitions)
                + (identity.isEmpty() ? "" : ", PRIMARY KEY (" + String.join(", ", identity) + ")") + ")";
    }

    /** A statement that tells the planner how many rows a key table has, or null where it knows. */
    default @Nullable String analyse(String keyTable) {
        return null;
    }

    /** The statement that removes a key table, or null where it goes with the transaction. */
    default @Nullable String dropKeyTable(String keyTable) {
        return "DROP TABLE IF EXISTS " + keyTable;
    }

    /** The type of a key table's column that is to hold values of this type. */
    default String keyType(ColumnType type) {
        return type.declared();
    }

    /**
     * The statement that makes an empty temporary table with the columns of another one, all of which may be NULL,
     * and with further columns of numbers. It must not end the transaction.
     *
     * @param columns of the other table
     * @param numbers names of further columns
     * @param unique columns of which no two rows may be the same, list by list
     */
    default String createStage(
            String stage, Table of, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        return createPlainStage(stage, columns, numbers, unique);
    }

    /** The same with columns of no table. */
    default String createPlainStage(
            String stage, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        List<String> definitions = new ArrayList<>();
        columns.forEach(
                column -> definitions.add((syntax().quote(column.name()) + " " + stageType(column.type())).strip()));
        numbers.forEach(number -> definitions.add(number + " BIGINT"));
        unique.forEach(key -> definitions.add("UNIQUE (" + String.join(", ", key) + ")"));
        return createKeyTable(stage, definitions, List.of());
    }

    /** The type of a stage's column that is to hold values of this type, and be compared as they are. */
    default String stageType(ColumnType type) {
        return keyType(type);
    }

    /** Whether it finds rows of a large table by an index alone, and not by hashing all of them at once. */
    default boolean looksUpRowByRow() {
        return true;
    }
}

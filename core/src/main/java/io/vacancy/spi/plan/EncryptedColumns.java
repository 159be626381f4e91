// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.schema.TableName;
import java.util.List;

/**
 * What of archived rows of a table is encrypted by the key of the person whom a row belongs to.
 *
 * @param columns those that are encrypted; none that tells rows apart or relates them
 * @param person the table of persons
 * @param by the columns in which a row has the key of its person; empty where all rows belong to the one person whom the
 *     request is about
 */
public record EncryptedColumns(List<String> columns, TableName person, List<String> by) {

    public EncryptedColumns {
        columns = List.copyOf(columns);
        by = List.copyOf(by);
    }
}

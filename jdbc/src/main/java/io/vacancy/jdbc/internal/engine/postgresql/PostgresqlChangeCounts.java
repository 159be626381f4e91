// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.ChangeCounts;

/** PostgreSQL: how it counts what is changed. */
final class PostgresqlChangeCounts implements ChangeCounts {

    /** Of this transaction alone, and at once; tables of sessions are those that Vacancy has its keys in. */
    @Override
    public String byTable() {
        return "SELECT NULLIF(schemaname, current_schema()), relname, n_tup_ins, n_tup_upd, n_tup_del FROM pg_stat_xact_user_tables"
                + " WHERE n_tup_ins + n_tup_upd + n_tup_del > 0 AND schemaname NOT LIKE 'pg\\_temp%'";
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mysql;

import io.vacancy.jdbc.internal.engine.mariadb.MariadbDialectProvider;
import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.DialectProvider;
import io.vacancy.jdbc.spi.ErrorClasses;
import io.vacancy.jdbc.spi.ForeignKeys;
import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.RowImages;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TableDefinitions;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.jdbc.spi.Values;

/**
 * MySQL 8, as MariaDB but for what is known to differ. <b>It was never run</b>, since there is no such server here; whoever
 * has one can prove it by the tests that every engine passes. Hence it is found only by those who name it in a file
 * {@code META-INF/services/io.vacancy.jdbc.spi.DialectProvider} of their own.
 */
public final class MySqlDialectProvider implements DialectProvider {

    @Override
    public String engine() {
        return "MySQL";
    }

    @Override
    public Dialect dialect() {
        return new MySql(new MariadbDialectProvider().dialect());
    }

    private record MySql(Dialect like) implements Dialect {

        @Override
        public String name() {
            return "MySQL";
        }

        /** It has no statement that runs another one without checks, so circles over several tables are refused. */
        @Override
        public ForeignKeys foreignKeys() {
            return () -> ForeignKeys.ClosedCircle.LEAVES_FIRST;
        }

        @Override
        public Catalogue catalogue() {
            return like.catalogue();
        }

        @Override
        public ErrorClasses errors() {
            return like.errors();
        }

        @Override
        public Locking locking() {
            return like.locking();
        }

        @Override
        public RowImages images() {
            return like.images();
        }

        @Override
        public Syntax syntax() {
            return like.syntax();
        }

        @Override
        public Values values() {
            return like.values();
        }

        @Override
        public TemporaryTables temporaryTables() {
            return like.temporaryTables();
        }

        @Override
        public TableDefinitions definitions() {
            return like.definitions();
        }
    }
}

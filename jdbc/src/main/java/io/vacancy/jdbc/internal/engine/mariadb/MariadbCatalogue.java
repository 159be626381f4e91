// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;

/** MariaDB: how an engine tells of its tables. */
final class MariadbCatalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new MariadbSchemaReader();
    }

    @Override
    public String digest() {
        return """
                SELECT concat((SELECT concat(count(*), '/', coalesce(sum(crc32(concat(constraint_name, delete_rule))), 0))
                                 FROM information_schema.referential_constraints WHERE constraint_schema = database()),
                              ' ', (SELECT count(*) FROM information_schema.triggers WHERE trigger_schema = database()))""";
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Catalogue;
import io.vacancy.jdbc.spi.SchemaReader;

/** H2: how an engine tells of its tables. */
final class H2Catalogue implements Catalogue {

    @Override
    public SchemaReader reader() {
        return new H2SchemaReader();
    }

    @Override
    public String digest() {
        return """
                SELECT (SELECT COUNT(*) || '/' || COALESCE(SUM(ORA_HASH(constraint_name || delete_rule)), 0)
                          FROM information_schema.referential_constraints)
                    || ' ' || (SELECT COUNT(*) FROM information_schema.triggers)""";
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.rules.CombinedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.TableEntry;
import io.vacancy.schema.Schema;
import jakarta.persistence.EntityManagerFactory;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;

/**
 * What the entities of a persistence unit say of their deletion, as a rule book: the annotations of this package, and what a
 * mapping says by itself: a version is raised by whatever Vacancy changes, and rows that have no life of their own (values of
 * collections, links of join tables, further tables of an entity) are deleted with their owner. Immutable.
 */
public final class EntityRules {

    private final EntityMapping mapping;
    private final RuleBook book;

    private EntityRules(EntityMapping mapping) {
        this.mapping = mapping;
        this.book = new AnnotationReader(mapping, table -> false).book();
    }

    /**
     * Reads them.
     *
     * @throws MisuseException if an annotation cannot be honoured, or the provider is not Hibernate
     */
    public static EntityRules of(EntityManagerFactory factory) {
        return new EntityRules(EntityMapping.of(factory));
    }

    /** They alone. */
    public RuleBook book() {
        return book;
    }

    /**
     * They and a rule book that prevails where both say something of the same.
     *
     * @param schema of the database, as {@code store.schema()} reads it
     */
    public CombinedRules under(RuleBook prevailing, Schema schema) {
        Objects.requireNonNull(prevailing, "prevailing");
        Objects.requireNonNull(schema, "schema");
        Set<String> marked = new TreeSet<>(String.CASE_INSENSITIVE_ORDER);
        for (TableEntry entry : prevailing.tables()) {
            if (entry.marker() != null) {
                marked.add(entry.table());
            }
        }
        return CombinedRules.of(prevailing, new AnnotationReader(mapping, marked::contains).book(), schema);
    }
}

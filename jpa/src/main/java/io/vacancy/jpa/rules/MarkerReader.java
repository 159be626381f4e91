// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.jpa.internal.mapping.MappedAttribute;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.rules.Marker;
import java.lang.annotation.Annotation;
import java.time.temporal.Temporal;
import java.util.Arrays;
import java.util.Date;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads how an entity says that a row is soft-deleted. */
record MarkerReader(MappedEntity entity) {

    @Nullable
    Marker marker() {
        List<MappedAttribute> signs = having(DeletionMarker.class);
        if (signs.size() > 1) {
            throw new MisuseException("Entity " + entity.name() + " has several attributes with @DeletionMarker.");
        }
        if (signs.isEmpty()) {
            return null;
        }
        Marker marker = sign(signs.get(0), Objects.requireNonNull(signs.get(0).one(DeletionMarker.class)));
        String who = column(DeletedBy.class);
        marker = who == null ? marker : marker.who(who);
        String why = column(DeletedBecause.class);
        marker = why == null ? marker : marker.why(why);
        String receipt = column(DeletionReceipt.class);
        return receipt == null ? marker : marker.receipt(receipt);
    }

    private Marker sign(MappedAttribute attribute, DeletionMarker said) {
        String column = entity.columns(attribute.path()).get(0);
        Class<?> type = attribute.type();
        List<String> active = List.of(said.active());
        if (Temporal.class.isAssignableFrom(type) || Date.class.isAssignableFrom(type)) {
            if (!said.deleted().isEmpty()) {
                throw new MisuseException(
                        "@DeletionMarker on " + attribute.of(entity.name())
                                + " says a value for deleted rows, and a date is when.",
                        "Leave deleted out.");
            }
            return active.isEmpty() ? Marker.date(column) : Marker.endDate(column, active.get(0));
        }
        if (said.deleted().isEmpty()) {
            throw new MisuseException(
                    "@DeletionMarker on " + attribute.of(entity.name()) + " does not say what deleted rows have.",
                    "Say deleted = \"…\", as it is " + type.getSimpleName() + ".");
        }
        if (type == boolean.class || type == Boolean.class) {
            boolean deleted = Boolean.parseBoolean(said.deleted());
            return Marker.flag(column, value(attribute, !deleted), value(attribute, deleted));
        }
        Object deleted = value(attribute, read(attribute, said.deleted()));
        Stream<Object> others = active.isEmpty() && type.isEnum()
                ? Arrays.stream(type.getEnumConstants())
                        .filter(constant -> !((Enum<?>) constant).name().equals(said.deleted()))
                        .map(Object.class::cast)
                : active.stream().map(each -> read(attribute, each));
        Object[] values = others.map(each -> value(attribute, each)).toArray();
        if (values.length == 0) {
            throw new MisuseException(
                    "@DeletionMarker on " + attribute.of(entity.name()) + " does not say what active rows have.",
                    "Say active = {\"…\"}.");
        }
        return Marker.status(column, deleted, values);
    }

    /** What a text stands for in the attribute. */
    private Object read(MappedAttribute attribute, String text) {
        if (!attribute.type().isEnum()) {
            return text;
        }
        return Arrays.stream(attribute.type().getEnumConstants())
                .filter(constant -> ((Enum<?>) constant).name().equals(text))
                .map(Object.class::cast)
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "@DeletionMarker on " + attribute.of(entity.name()) + " names " + text + ", which "
                                + attribute.type().getSimpleName() + " has not.",
                        "It has " + Arrays.toString(attribute.type().getEnumConstants()) + "."));
    }

    private Object value(MappedAttribute attribute, Object value) {
        boolean asItIs = value instanceof String && attribute.type() != String.class;
        Object kept = asItIs
                ? value
                : entity.values(attribute.path(), value).values().iterator().next();
        return Objects.requireNonNull(kept, "a marker's value is kept as NULL");
    }

    private @Nullable String column(Class<? extends Annotation> annotation) {
        List<MappedAttribute> having = having(annotation);
        return having.isEmpty() ? null : entity.columns(having.get(0).path()).get(0);
    }

    private List<MappedAttribute> having(Class<? extends Annotation> annotation) {
        return entity.attributes().stream().filter(each -> each.has(annotation)).toList();
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import java.lang.annotation.Annotation;
import java.lang.reflect.AnnotatedElement;
import java.lang.reflect.Field;
import java.lang.reflect.Member;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An attribute of an entity, with what stands on it.
 *
 * @param path its name, after those of the embeddables that it is in
 * @param type what it holds
 * @param places where annotations of it may stand: the field and the method that the provider does not use, too
 */
public record MappedAttribute(String path, Class<?> type, List<AnnotatedElement> places) {

    public MappedAttribute {
        places = List.copyOf(places);
    }

    static MappedAttribute of(String path, Class<?> type, Member member) {
        List<AnnotatedElement> places = new ArrayList<>();
        places.add((AnnotatedElement) member);
        if (!(member instanceof Field)) {
            String name = path.substring(path.lastIndexOf('.') + 1);
            for (Field field : member.getDeclaringClass().getDeclaredFields()) {
                if (field.getName().equals(name)) {
                    places.add(field);
                }
            }
        }
        return new MappedAttribute(path, type, places);
    }

    /** Its name after that of an entity. */
    public String of(String entity) {
        return entity + "." + path;
    }

    /** Whether an annotation stands on it. */
    public boolean has(Class<? extends Annotation> annotation) {
        return one(annotation) != null;
    }

    /** The annotation, or null. */
    public <A extends Annotation> @Nullable A one(Class<A> annotation) {
        List<A> all = all(annotation);
        return all.isEmpty() ? null : all.get(0);
    }

    /** All of them, in their order. */
    public <A extends Annotation> List<A> all(Class<A> annotation) {
        return places.stream()
                .flatMap(place -> List.of(place.getAnnotationsByType(annotation)).stream())
                .toList();
    }
}

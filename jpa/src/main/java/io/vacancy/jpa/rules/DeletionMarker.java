// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * The attribute that says that a row is soft-deleted. A date or time is set then, and null while the row is active; of anything else
 * say which values mean what.
 */
@Documented
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.FIELD, ElementType.METHOD})
public @interface DeletionMarker {

    /**
     * What it becomes, as a text: {@code true}, the name of a constant, a number. Wanted unless the attribute is a date or time.
     */
    String deleted() default "";

    /**
     * The values of active rows, the first of which a row gets that comes back. Of a boolean the other value, of an enumeration
     * all other constants, unless they are said; of a date or time the end of active rows, such as {@code 9999-12-31}, where
     * that is not null.
     */
    String[] active() default {};
}

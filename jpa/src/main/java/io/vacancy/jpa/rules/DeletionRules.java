// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * What an entity says of the deletion of its rows. What the rule book file says of its table prevails.
 */
@Documented
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.TYPE})
public @interface DeletionRules {

    /** How rows are called in front of people, with attributes in braces: {@code {name} ({registration})}. */
    String label() default "";

    /** Whether rows are usually marked instead of removed. Wants a {@link DeletionMarker}. */
    boolean softDelete() default false;

    /** Whether no row may ever be deleted, not even with its parent. */
    boolean never() default false;

    /** Whether the last row may never be deleted. */
    boolean neverEmpty() default false;

    /** How many rows may be selected at most; 0 for any number. */
    long atMost() default 0;
}

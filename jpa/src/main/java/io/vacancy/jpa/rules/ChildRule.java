// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Repeatable;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * What happens to child rows when their parent is deleted: on the reference from the child to its parent, or on the collection
 * that the parent has. Several are tried in their order; a row for which none holds follows what the database declares.
 *
 * <pre>{@code
 * @ManyToOne
 * @ChildRule(when = "paid IS NOT TRUE", then = Then.BLOCK, reason = "unpaid")
 * @ChildRule(then = Then.CASCADE)
 * Mooring mooring;
 * }</pre>
 */
@Documented
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.FIELD, ElementType.METHOD})
@Repeatable(ChildRule.Several.class)
public @interface ChildRule {

    /** What happens. */
    Then then();

    /** For which child rows, as a search condition over attributes or columns of the child; all of them unless said. */
    String when() default "";

    /** Why they block; wanted of {@link Then#BLOCK}. */
    String reason() default "";

    /** The key of the parent that they get by {@link Then#REASSIGN}; where it is not said, the request says it. */
    String to() default "";

    /** Whether it holds for parents that are soft-deleted only, in the place of what holds for both. */
    boolean whenSoftDeleted() default false;

    /** Several, in their order. */
    @Documented
    @Retention(RetentionPolicy.RUNTIME)
    @Target({ElementType.FIELD, ElementType.METHOD})
    @interface Several {

        ChildRule[] value();
    }
}

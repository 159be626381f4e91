// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.rules;

import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/**
 * The attribute holds what is personal: the audit history and kept receipts never tell its value.
 */
@Documented
@Retention(RetentionPolicy.RUNTIME)
@Target({ElementType.FIELD, ElementType.METHOD})
public @interface Personal {

    /**
     * What it holds once the row is blanked, with attributes or columns of the row's key in braces, as in
     * {@code skipper {id}}; NULL unless said.
     */
    String blank() default "";
}

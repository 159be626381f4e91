// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

/** Who works on the calling thread; a bean of this type takes the place of Spring Security's user. */
@FunctionalInterface
public interface CurrentActor {

    /** A name or an identifier of up to 255 characters; blank for nobody, who may do nothing. */
    String name();
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.internal.argument.Arguments;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * On whose account something is done, for work that goes on when the one who asked is gone: what an application's suppliers
 * say of the calling thread, at one moment.
 *
 * @param actor who asks
 * @param onBehalfOf for whom, or null for nobody else
 * @param origin from where, by any names
 * @param scope what the actor may see and touch
 */
public record Caller(String actor, @Nullable String onBehalfOf, Map<String, String> origin, Scope scope) {

    public Caller {
        Arguments.notBlank(actor, "actor");
        origin = Map.copyOf(Arguments.notNull(origin, "origin"));
        Arguments.notNull(scope, "scope");
    }

    /** Somebody who asks for nobody else, and sees everything. */
    public static Caller of(String actor) {
        return new Caller(actor, null, Map.of(), Scope.everything());
    }
}

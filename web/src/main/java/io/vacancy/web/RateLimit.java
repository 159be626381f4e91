// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** Decides whether somebody asks too often; an application brings its own. Called on every request, by many threads. */
@FunctionalInterface
public interface RateLimit {

    /** Lets everybody ask as often as they like. */
    RateLimit NONE = request -> null;

    /** After how long it may be asked again, or null to go ahead. */
    @Nullable
    Duration waitFor(HttpServletRequest request);
}

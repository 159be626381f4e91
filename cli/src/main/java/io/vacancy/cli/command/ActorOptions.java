// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** In whose name something is done, and what the audit history is told of that besides. */
final class ActorOptions {

    @Option(names = "--by", paramLabel = "WHO", description = "Who does it; the user of this machine unless given.")
    private @Nullable String by;

    @Option(names = "--on-behalf-of", paramLabel = "WHO", description = "For whom, where that is somebody else.")
    private @Nullable String onBehalfOf;

    @Option(
            names = "--origin",
            paramLabel = "NAME=VALUE",
            description = "From where, for the audit history: a ticket, a page, an address; repeatable.")
    private Map<String, String> origin = new LinkedHashMap<>();

    String by() {
        return by != null ? by : System.getProperty("user.name") + " (user of this machine)";
    }

    @Nullable
    String onBehalfOf() {
        return onBehalfOf;
    }

    Map<String, String> origin() {
        Map<String, String> all = new LinkedHashMap<>();
        all.put("through", "command line");
        all.putAll(origin);
        return all;
    }
}

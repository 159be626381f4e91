// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.screen.Screen;
import io.vacancy.request.NamedDeletion;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** The values of a named deletion's parameters: as they are given, or typed when asked for. */
final class DeletionParameters {

    @Option(names = "--with", paramLabel = "NAME=VALUE", description = "A parameter of the named deletion; repeatable.")
    private List<String> with = new ArrayList<>();

    boolean given() {
        return !with.isEmpty();
    }

    Map<String, Object> values() {
        return NamedValues.read(with, "--with");
    }

    /**
     * Asks for the parameters of a named deletion that were not given, where somebody can be asked.
     *
     * @return whether all are there now; nobody who leaves one out wants to go on
     */
    boolean completed(NamedDeletion deletion, Screen screen) {
        if (!screen.terminal()) {
            return true;
        }
        Map<String, Object> given = values();
        for (Map.Entry<String, ValueKind> parameter : deletion.parameters().entrySet()) {
            if (!given.containsKey(parameter.getKey())) {
                String typed = asked(parameter.getKey(), parameter.getValue(), screen);
                if (typed == null) {
                    screen.tell("Nothing was changed.");
                    return false;
                }
                with.add(parameter.getKey() + "=" + typed);
            }
        }
        return true;
    }

    private static @Nullable String asked(String parameter, ValueKind kind, Screen screen) {
        while (true) {
            String typed = screen.ask(parameter + ", " + kind.example() + ", or press Enter to leave it: ");
            if (typed == null || typed.isBlank()) {
                return null;
            }
            if (kind.read(typed) != null) {
                return typed;
            }
            screen.tell("\"" + typed + "\" is not " + kind.example() + ".");
        }
    }
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** What the help of each command shows it by, on the harbour office's database. */
public final class CommandExamples {

    private static final Map<String, List<String>> EXAMPLES = Map.ofEntries(
            Map.entry("demo", List.of("vacancy demo", "vacancy demo --at harbour.db")),
            Map.entry(
                    "init",
                    List.of(
                            "vacancy init --db jdbc:postgresql://localhost/harbour",
                            "vacancy init --db harbour.db --to -")),
            Map.entry(
                    "setup",
                    List.of("vacancy setup --db harbour.db", "vacancy setup print --db harbour.db > setup.sql")),
            Map.entry(
                    "setup print",
                    List.of(
                            "vacancy setup print --db harbour.db",
                            "vacancy setup print --db harbour.db --own-tables audit.vac_")),
            Map.entry(
                    "setup views",
                    List.of("vacancy setup views --db harbour.db", "vacancy setup views --db harbour.db > views.sql")),
            Map.entry("setup manual", List.of("vacancy setup manual", "vacancy setup manual --to share/man/man1")),
            Map.entry(
                    "setup completion",
                    List.of("vacancy setup completion", "vacancy setup completion > vacancy-completion.sh")),
            Map.entry(
                    "setup triggers",
                    List.of(
                            "vacancy setup triggers boat --db harbour.db",
                            "vacancy setup triggers boat --refuse --db harbour.db")),
            Map.entry(
                    "relations",
                    List.of("vacancy relations --db harbour.db", "vacancy relations boat --db harbour.db")),
            Map.entry(
                    "check",
                    List.of("vacancy check --db harbour.db", "vacancy check --db harbour.db --rules vacancy.yaml")),
            Map.entry(
                    "preview",
                    List.of(
                            "vacancy preview boat --key 17 --db harbour.db",
                            "vacancy preview mooring --where \"left_on < DATE '2026-01-01'\" --rows --db harbour.db")),
            Map.entry(
                    "delete",
                    List.of(
                            "vacancy delete boat --key 17 --because sold --db harbour.db",
                            "vacancy delete fee --where \"paid IS TRUE\" --at-most 500 --on-blocked skip --db harbour.db")),
            Map.entry(
                    "replace",
                    List.of(
                            "vacancy replace berth_contract --key 4 --set rent=790 --db harbour.db",
                            "vacancy replace berth_contract --key 4 --set rent=790 --from 2026-06-01 --db harbour.db")),
            Map.entry(
                    "restore",
                    List.of(
                            "vacancy restore 01890a5d-ac96-774b-bcce-b302099a8057 --db harbour.db",
                            "vacancy restore boat --key 17 --db harbour.db")),
            Map.entry(
                    "archive",
                    List.of(
                            "vacancy archive --db harbour.db",
                            "vacancy archive boat --since 2026-05-01 --db harbour.db")),
            Map.entry(
                    "archive compare",
                    List.of(
                            "vacancy archive compare 01a20791-5371-7acc-8933-1b2981df1963 --db harbour.db",
                            "vacancy archive compare 01a20791-5371-7acc-8933-1b2981df1963 --format csv --db harbour.db")),
            Map.entry(
                    "archive definition",
                    List.of(
                            "vacancy archive definition 01a20791-5371-7acc-8933-1b2981df1963 --db harbour.db",
                            "vacancy archive definition 01a20791-5371-7acc-8933-1b2981df1963 --db harbour.db > again.sql")),
            Map.entry(
                    "archive hold",
                    List.of(
                            "vacancy archive hold boat --key 14 --because \"case 7\" --db harbour.db",
                            "vacancy archive hold boat --because \"case 7\" --db harbour.db")),
            Map.entry(
                    "archive release",
                    List.of(
                            "vacancy archive release 3 --db harbour.db",
                            "vacancy archive release 3 --by \"Mira Holm\" --db harbour.db")),
            Map.entry(
                    "purge",
                    List.of(
                            "vacancy purge --due --db harbour.db",
                            "vacancy purge 01890a5d-ac96-774b-bcce-b302099a8057 --db harbour.db")),
            Map.entry(
                    "history",
                    List.of(
                            "vacancy history boat --key 17 --db harbour.db",
                            "vacancy history --who \"Mira Holm\" --since 2026-05-01 --db harbour.db")),
            Map.entry(
                    "history certificate",
                    List.of(
                            "vacancy history certificate 0198c5a2-6b7e-7cc3-98c4-dc0c0c07398f --db harbour.db",
                            "vacancy history certificate 0198c5a2-6b7e-7cc3-98c4-dc0c0c07398f --format json --db"
                                    + " harbour.db")),
            Map.entry(
                    "history verify",
                    List.of(
                            "vacancy history verify --db harbour.db",
                            "vacancy history verify --head-file office.head --db harbour.db")),
            Map.entry(
                    "history seal",
                    List.of(
                            "vacancy history seal --db harbour.db",
                            "vacancy history seal --head-file office.head --db harbour.db")),
            Map.entry(
                    "history events",
                    List.of(
                            "vacancy history events --look --db harbour.db",
                            "vacancy history events --most 100 --db harbour.db")),
            Map.entry("jobs", List.of("vacancy jobs --db harbour.db", "vacancy jobs --open --db harbour.db")),
            Map.entry(
                    "jobs start",
                    List.of(
                            "vacancy jobs start --upkeep purge-due --every 03:00 --db harbour.db",
                            "vacancy jobs start --upkeep seal --every PT10M --db harbour.db")),
            Map.entry(
                    "jobs show",
                    List.of(
                            "vacancy jobs show season-end --db harbour.db",
                            "vacancy jobs show season-end --format json --db harbour.db")),
            Map.entry(
                    "jobs watch",
                    List.of(
                            "vacancy jobs watch season-end --db harbour.db",
                            "vacancy jobs watch season-end --format json --db harbour.db")),
            Map.entry(
                    "jobs pause",
                    List.of(
                            "vacancy jobs pause season-end --db harbour.db",
                            "vacancy jobs pause season-end --format json --db harbour.db")),
            Map.entry(
                    "jobs resume",
                    List.of(
                            "vacancy jobs resume season-end --db harbour.db",
                            "vacancy jobs resume season-end --share 50 --db harbour.db")),
            Map.entry(
                    "jobs cancel",
                    List.of(
                            "vacancy jobs cancel season-end --db harbour.db",
                            "vacancy jobs cancel season-end --format json --db harbour.db")),
            Map.entry(
                    "jobs run",
                    List.of("vacancy jobs run --db harbour.db", "vacancy jobs run --until-idle --db harbour.db")),
            Map.entry(
                    "drop",
                    List.of(
                            "vacancy drop radio_message --look --db harbour.db",
                            "vacancy drop inspection --column result --because \"kept elsewhere\" --db harbour.db")),
            Map.entry(
                    "orphans",
                    List.of(
                            "vacancy orphans --db harbour.db",
                            "vacancy orphans fee.mooring_id --erase --db harbour.db")));

    private CommandExamples() {}

    /** Those of a command, by its words after the tool's own; empty if there are none. */
    public static List<String> of(String command) {
        return EXAMPLES.getOrDefault(command, List.of());
    }

    /** As the help of a command ends: each on a line of its own, however long, to be copied. */
    static String written(String command) {
        List<String> examples = of(command);
        String end = System.lineSeparator();
        return examples.isEmpty()
                ? ""
                : end + "Examples:" + end
                        + examples.stream().map(each -> "  " + each + end).collect(Collectors.joining());
    }
}

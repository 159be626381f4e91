// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** A page of the manual, section 1, in the macros of man(7), which groff and mandoc set. */
final class ManualPage {

    private final StringBuilder page = new StringBuilder();

    private ManualPage() {}

    /** The pages by the names of their files. */
    static Map<String, String> all(List<CommandText> commands, String version) {
        Map<String, String> pages = new TreeMap<>();
        for (CommandText command : commands) {
            pages.put(file(command.words()), new ManualPage().of(command, version));
        }
        pages.put(file(""), new ManualPage().ofTool(commands, version));
        return pages;
    }

    /** As man calls a page; of no words that of the tool. */
    private static String name(String words) {
        return words.isEmpty() ? "vacancy" : "vacancy-" + words.replace(' ', '-');
    }

    private static String file(String words) {
        return name(words) + ".1";
    }

    private String of(CommandText command, String version) {
        begin(name(command.words()), command.description(), version);
        section("SYNOPSIS");
        bold(command.synopsis());
        section("DESCRIPTION");
        text(command.description());
        command.arguments().forEach(this::term);
        command.options().forEach((group, options) -> {
            section(group.heading().toUpperCase(Locale.ROOT));
            options.forEach(option -> term(CommandText.written(option), CommandText.description(option)));
        });
        if (!command.subcommands().isEmpty()) {
            section("COMMANDS");
            command.subcommands().forEach(this::reference);
        }
        section("EXAMPLES");
        examples(command.examples());
        exitCodes();
        section("SEE ALSO");
        reference("");
        return page.toString();
    }

    private String ofTool(List<CommandText> commands, String version) {
        String does = "deletes records on purpose: shown first, asked for, carried out whole, and told afterwards";
        begin(name(""), does, version);
        section("SYNOPSIS");
        bold("vacancy COMMAND [OPTIONS]");
        section("COMMANDS");
        commands.stream()
                .filter(each -> !each.words().contains(" "))
                .forEach(each -> term("vacancy " + each.words(), each.description()));
        section("ENVIRONMENT");
        term("VACANCY_DB", "The database, where --db is not given.");
        term("VACANCY_RULES", "The rule book, where --rules is not given.");
        term("NO_COLOR", "Set to anything: no colours.");
        section("FILES");
        term("vacancy.yaml", "The rule book in the current folder.");
        term(SettingsFile.NAME, SettingsFile.DESCRIPTION);
        exitCodes();
        section("SEE ALSO");
        commands.forEach(each -> reference(each.words()));
        return page.toString();
    }

    private void begin(String name, String does, String version) {
        page.append(".TH ")
                .append(name.toUpperCase(Locale.ROOT))
                .append(" 1 \"\" \"")
                .append(version)
                .append("\"\n");
        section("NAME");
        line(escaped(name) + " \\- " + escaped(does.replaceAll("\\.$", "")));
    }

    private void exitCodes() {
        section("EXIT CODES");
        ExitCode.meanings().forEach((code, meaning) -> term(String.valueOf(code), meaning));
    }

    private void section(String heading) {
        page.append(".SH \"").append(heading).append("\"\n");
    }

    private void text(String text) {
        line(escaped(text));
    }

    private void bold(String text) {
        line("\\fB" + escaped(text) + "\\fR");
    }

    private void term(String term, String description) {
        page.append(".TP\n");
        bold(term);
        text(description);
    }

    private void reference(String words) {
        page.append(".PP\n");
        line("\\fB" + escaped(name(words)) + "\\fR(1)");
    }

    private void examples(List<String> examples) {
        page.append(".nf\n");
        examples.forEach(this::text);
        page.append(".fi\n");
    }

    private void line(String line) {
        page.append(line).append('\n');
    }

    /**
     * A hyphen that can be copied, and characters beyond ASCII by their numbers, whatever the encoding is taken for; a line
     * that begins with a point or an apostrophe would be a request.
     */
    private static String escaped(String text) {
        StringBuilder escaped = new StringBuilder();
        text.codePoints().forEach(point -> {
            if (point == '\\') {
                escaped.append("\\e");
            } else if (point == '-') {
                escaped.append("\\-");
            } else if (point > 0x7e) {
                escaped.append(String.format(Locale.ROOT, "\\[u%04X]", point));
            } else {
                escaped.appendCodePoint(point);
            }
        });
        boolean request = escaped.indexOf(".") == 0 || escaped.indexOf("'") == 0;
        return request ? "\\&" + escaped : escaped.toString();
    }
}

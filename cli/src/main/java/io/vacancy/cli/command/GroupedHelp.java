// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import picocli.CommandLine;
import picocli.CommandLine.Help;
import picocli.CommandLine.Model.UsageMessageSpec;

/** Has the help of a command list its options by what they are for, and end with examples. */
final class GroupedHelp {

    private GroupedHelp() {}

    static void on(CommandLine command, String words) {
        command.getHelpSectionMap().put(UsageMessageSpec.SECTION_KEY_OPTION_LIST, GroupedHelp::options);
        command.getHelpSectionMap().put(UsageMessageSpec.SECTION_KEY_OPTION_LIST_HEADING, help -> "");
        command.getHelpSectionMap().put(UsageMessageSpec.SECTION_KEY_FOOTER, help -> CommandExamples.written(words));
    }

    private static String options(Help help) {
        StringBuilder text = new StringBuilder();
        CommandText.grouped(help.commandSpec().options()).forEach((group, options) -> {
            Help.Layout layout = help.createDefaultLayout();
            layout.addOptions(options, help.createDefaultParamLabelRenderer());
            text.append(System.lineSeparator())
                    .append(group.heading())
                    .append(':')
                    .append(System.lineSeparator())
                    .append(layout);
        });
        return text.toString();
    }
}

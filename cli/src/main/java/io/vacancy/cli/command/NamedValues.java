// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/** Values of an option that is repeated, each with its name: {@code NAME=VALUE}. */
final class NamedValues {

    private static final Pattern COLUMNS_WITH_A_VALUE = Pattern.compile("[^=()]+\\([^()]*\\)=");

    private NamedValues() {}

    static Map<String, Object> read(List<String> written, String option) {
        Map<String, Object> pairs = new LinkedHashMap<>();
        for (String each : written) {
            // A value may stand among the columns of a relation: remark(subject_id,subject_type='boat')=cascade.
            int equals = each.indexOf('=', COLUMNS_WITH_A_VALUE.matcher(each).lookingAt() ? each.indexOf(")=") : 0);
            if (equals < 1) {
                throw new MisuseException(
                        option + " " + each + " does not name a value.", "Write it as " + option + " NAME=VALUE.");
            }
            if (pairs.put(each.substring(0, equals).strip(), each.substring(equals + 1)) != null) {
                throw new MisuseException(option + " names " + each.substring(0, equals) + " twice.");
            }
        }
        return pairs;
    }
}

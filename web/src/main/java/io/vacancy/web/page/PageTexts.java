// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web.page;

import io.vacancy.internal.argument.Arguments;
import java.text.MessageFormat;
import java.util.Locale;
import java.util.ResourceBundle;

/** The words of pages in one language, from a resource bundle. Serves all threads. */
public final class PageTexts {

    /** The bundle that Vacancy brings, in English and German. */
    public static final String USUAL = "io.vacancy.web.page.texts";

    private final ResourceBundle bundle;
    private final Locale locale;

    private PageTexts(ResourceBundle bundle, Locale locale) {
        this.bundle = bundle;
        this.locale = locale;
    }

    /**
     * Those of a bundle for a language; in English where the bundle does not have it.
     *
     * @param bundle the base name, such as {@link #USUAL}
     * @param loader that finds the bundle
     */
    public static PageTexts of(String bundle, Locale locale, ClassLoader loader) {
        Arguments.notBlank(bundle, "bundle");
        Arguments.notNull(locale, "locale");
        ResourceBundle found = ResourceBundle.getBundle(
                bundle,
                locale,
                Arguments.notNull(loader, "loader"),
                ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control.FORMAT_PROPERTIES));
        Locale of = found.getLocale();
        return new PageTexts(found, of.getLanguage().isEmpty() ? Locale.ENGLISH : of);
    }

    /** The language, as HTML names it. */
    public String language() {
        return locale.toLanguageTag();
    }

    /**
     * A text with values in it.
     *
     * @param key as the bundle has it
     */
    public String say(String key, Object... values) {
        String pattern = bundle.getString(Arguments.notBlank(key, "key"));
        return new MessageFormat(pattern, locale).format(values);
    }

    /** Whether there is such a text. */
    public boolean has(String key) {
        return bundle.containsKey(Arguments.notBlank(key, "key"));
    }
}

/** Asking people over HTTP, by the Jakarta Servlet API. */
module io.vacancy.web {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive jakarta.servlet;
    requires io.vacancy.json;
    requires com.fasterxml.jackson.databind;
    requires gg.jte.runtime;
    requires org.slf4j;

    exports io.vacancy.web;
    exports io.vacancy.web.page;

    // The engine calls the templates, and finds the texts.
    opens io.vacancy.web.internal.template to
            gg.jte.runtime;
}

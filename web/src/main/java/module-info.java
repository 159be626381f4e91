/** Asking people over HTTP, by the Jakarta Servlet API. */
module io.vacancy.web {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires transitive jakarta.servlet;
    requires io.vacancy.json;
    requires com.fasterxml.jackson.databind;
    requires org.slf4j;

    exports io.vacancy.web;
}

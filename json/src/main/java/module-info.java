/** The JSON forms of requests, previews, outcomes, receipts and trail entries. */
module io.vacancy.json {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires com.fasterxml.jackson.databind;

    exports io.vacancy.json;
    exports io.vacancy.json.saved;
}

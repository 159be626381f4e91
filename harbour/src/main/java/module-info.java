/** The harbour office: made-up data to try things on; never published. */
module io.vacancy.harbour {
    requires static transitive org.jspecify;
    requires transitive java.sql;

    exports io.vacancy.harbour;
}

/** The rule book in YAML, and conditions as SQL search conditions. */
module io.vacancy.rulebook {
    requires static transitive org.jspecify;
    requires transitive io.vacancy;
    requires net.sf.jsqlparser;
    requires org.snakeyaml.engine.v2;

    exports io.vacancy.rulebook;
    exports io.vacancy.rulebook.sql;
}

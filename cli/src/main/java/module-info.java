/** The command-line tool. */
module io.vacancy.cli {
    requires static org.jspecify;
    requires io.vacancy;
    requires io.vacancy.diagram;
    requires io.vacancy.harbour;
    requires io.vacancy.jdbc;
    requires io.vacancy.jobs;
    requires io.vacancy.json;
    requires io.vacancy.rulebook;
    requires info.picocli;
    requires java.sql;
    requires java.xml;
    requires org.apache.commons.csv;
    requires org.jline.terminal;

    uses java.sql.Driver;

    opens io.vacancy.cli.command to
            info.picocli;
}

// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import java.sql.Connection;
import javax.sql.DataSource;
import org.apache.ibatis.mapping.Environment;
import org.apache.ibatis.session.Configuration;
import org.apache.ibatis.session.SqlSession;
import org.apache.ibatis.session.SqlSessionFactoryBuilder;
import org.apache.ibatis.transaction.jdbc.JdbcTransactionFactory;
import org.jdbi.v3.core.Jdbi;
import org.jooq.SQLDialect;
import org.jooq.impl.DSL;

/** A deletion that is part of a transaction which jOOQ, Jdbi or MyBatis has begun, on the connection that they have. */
public class InTheirTransactions {

    private final DataSource dataSource;
    private final Vacancy vacancy;

    InTheirTransactions(DataSource dataSource) {
        this.dataSource = dataSource;
        this.vacancy = Vacancy.on(JdbcStore.of(dataSource))
                .actor(() -> "Mira Holm")
                .listener(new Listener() {
                    @Override
                    public void ended(Request request, Outcome outcome) {
                        System.out.println("told: " + request.reason() + " "
                                + outcome.state().word());
                    }
                })
                .open();
    }

    private Vacancy delete(Connection connection, int reading, String by) {
        Vacancy within = vacancy.within(connection);
        within.execute(Request.delete("power_reading").key(reading).because(by).expect(1))
                .receiptOrThrow();
        return within;
    }

    /** jOOQ commits at the end of the lambda. */
    void byJooq(int reading) {
        Vacancy done = DSL.using(dataSource, SQLDialect.SQLITE).transactionResult(inside -> inside.dsl()
                .connectionResult(connection -> delete(connection, reading, "by jOOQ")));
        done.committed();
    }

    /** So does Jdbi. */
    void byJdbi(int reading) {
        Vacancy done =
                Jdbi.create(dataSource).inTransaction(handle -> delete(handle.getConnection(), reading, "by Jdbi"));
        done.committed();
    }

    /** MyBatis has seen no statement of its own, so it commits only if it is made to. */
    void byMybatis(int reading) {
        Environment environment = new Environment("harbour", new JdbcTransactionFactory(), dataSource);
        try (SqlSession session = new SqlSessionFactoryBuilder()
                .build(new Configuration(environment))
                .openSession(false)) {
            Vacancy done = delete(session.getConnection(), reading, "by MyBatis");
            session.commit(true);
            done.committed();
        }
    }

    public static void main(String[] args) {
        InTheirTransactions example = new InTheirTransactions(Harbour.fresh());
        example.vacancy.archive().setUp();
        example.byJooq(9001);
        example.byJdbi(9002);
        example.byMybatis(9003);
        System.out.println(example.vacancy
                .preview(Request.delete("power_reading").keys(9001, 9002, 9003))
                .state());
    }
}

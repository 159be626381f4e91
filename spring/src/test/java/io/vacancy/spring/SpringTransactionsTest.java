// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.datasource.DataSourceTransactionManager;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.TransactionSystemException;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import org.springframework.transaction.support.TransactionTemplate;

class SpringTransactionsTest {

    private final List<String> heard = new ArrayList<>();
    private final List<Database> open = new ArrayList<>();

    @AfterEach
    void drop() {
        open.forEach(Database::drop);
    }

    private Database fresh(Engine engine) {
        Database database = engine.fresh();
        open.add(database);
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
                "INSERT INTO boat VALUES (1, 'Osprey'), (2, 'Heron'), (3, 'Tern'), (4, 'Gull')");
        Vacancy.on(JdbcStore.of(database.source()))
                .actor(() -> "Mira Holm")
                .open()
                .archive()
                .setUp();
        return database;
    }

    private Vacancy vacancy(DataSource source) {
        return Vacancy.on(JdbcStore.of(SpringTransactions.ownConnections(source)))
                .actor(() -> "Mira Holm")
                .joining(new SpringTransactions(source))
                .listener(new Listener() {
                    @Override
                    public void ended(Request request, Outcome outcome) {
                        heard.add(request.reason() + " " + outcome.state().word());
                    }
                })
                .open();
    }

    private static Request boat(int id) {
        return Request.erase("boat").key(id).because("boat " + id).withoutConfirmation("a test");
    }

    private static TransactionTemplate template(DataSource source) {
        return new TransactionTemplate(new DataSourceTransactionManager(source));
    }

    private static TransactionTemplate template(DataSource source, int propagation) {
        TransactionTemplate template = template(source);
        template.setPropagationBehavior(propagation);
        return template;
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void isPartOfTheTransactionAndToldAfterIt(Engine engine) {
        Database database = fresh(engine);
        Vacancy vacancy = vacancy(database.source());
        TransactionTemplate template = template(database.source());

        template.executeWithoutResult(status -> {
            vacancy.execute(boat(1)).receiptOrThrow();
            status.setRollbackOnly();
        });
        assertThat(database.count("boat")).isEqualTo(4);
        assertThat(heard).isEmpty();

        template.executeWithoutResult(status -> {
            new JdbcTemplate(database.source()).update("INSERT INTO boat VALUES (5, 'Skua')");
            vacancy.execute(boat(5)).receiptOrThrow();
            vacancy.execute(boat(2)).receiptOrThrow();
            assertThat(heard).isEmpty();
        });
        assertThat(database.count("boat")).isEqualTo(3);
        assertThat(heard).containsExactly("boat 5 done", "boat 2 done");

        // Outside of one, Vacancy's own.
        vacancy.execute(boat(3)).receiptOrThrow();
        assertThat(database.count("boat")).isEqualTo(2);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatCanOnlyBeReadRefusesWhatWouldWrite(Engine engine) {
        Database database = fresh(engine);
        Vacancy vacancy = vacancy(database.source());
        TransactionTemplate template = template(database.source());
        template.setReadOnly(true);

        template.executeWithoutResult(status -> {
            assertThatThrownBy(() -> vacancy.execute(boat(1)))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("The transaction that this thread is in can only be read");
            if (engine != Engine.SQLITE && engine != Engine.POSTGRESQL) {
                assertThat(vacancy.preview(boat(1)).state()).isEqualTo(Preview.State.READY);
            }
        });
        assertThat(database.count("boat")).isEqualTo(4);
    }

    @ParameterizedTest
    @EnumSource(
            value = Engine.class,
            names = {"H2", "POSTGRESQL", "MARIADB"})
    void aNewTransactionInsideIsOneOfItsOwn(Engine engine) {
        Database database = fresh(engine);
        Vacancy vacancy = vacancy(database.source());

        template(database.source()).executeWithoutResult(outer -> {
            vacancy.execute(boat(1)).receiptOrThrow();
            template(database.source(), TransactionDefinition.PROPAGATION_REQUIRES_NEW)
                    .executeWithoutResult(inner -> vacancy.execute(boat(2)).receiptOrThrow());
            assertThat(heard).containsExactly("boat 2 done");
            vacancy.execute(boat(3)).receiptOrThrow();
            outer.setRollbackOnly();
        });

        assertThat(database.count("boat WHERE id IN (1, 3, 4)")).isEqualTo(3);
        assertThat(database.count("boat")).isEqualTo(3);
        assertThat(heard).containsExactly("boat 2 done");
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatASavepointTakesBackIsNotToldAsDone(Engine engine) {
        Database database = fresh(engine);
        Vacancy vacancy = vacancy(database.source());
        TransactionTemplate nested = template(database.source(), TransactionDefinition.PROPAGATION_NESTED);

        template(database.source()).executeWithoutResult(outer -> {
            // Before Vacancy has heard of the transaction.
            nested.executeWithoutResult(inner -> {
                vacancy.execute(boat(4)).receiptOrThrow();
                inner.setRollbackOnly();
            });
            vacancy.execute(boat(1)).receiptOrThrow();
            nested.executeWithoutResult(inner -> {
                vacancy.execute(boat(2)).receiptOrThrow();
                inner.setRollbackOnly();
            });
            nested.executeWithoutResult(inner -> vacancy.execute(boat(3)).receiptOrThrow());
        });

        assertThat(database.count("boat WHERE id IN (2, 4)")).isEqualTo(2);
        assertThat(database.count("boat")).isEqualTo(2);
        assertThat(heard).containsExactly("boat 1 done", "boat 3 done");
    }

    @ParameterizedTest
    @EnumSource(
            value = Engine.class,
            names = {"H2", "POSTGRESQL"})
    void theTransactionOfAnotherDatabaseIsNoneHere(Engine engine) {
        Database harbour = fresh(engine);
        Database other = fresh(engine);
        Vacancy vacancy = vacancy(harbour.source());

        template(other.source()).executeWithoutResult(status -> {
            vacancy.execute(boat(1)).receiptOrThrow();
            assertThat(heard).containsExactly("boat 1 done");
            status.setRollbackOnly();
        });

        assertThat(harbour.count("boat")).isEqualTo(3);
        assertThat(other.count("boat")).isEqualTo(4);
    }

    @Test
    void separateWorkStaysWhateverBecomesOfTheTransaction() {
        Database database = fresh(Engine.POSTGRESQL);
        Vacancy vacancy = vacancy(database.source());

        template(database.source()).executeWithoutResult(status -> {
            vacancy.execute(boat(1)).receiptOrThrow();
            vacancy.separately().execute(boat(2)).receiptOrThrow();
            assertThat(heard).containsExactly("boat 2 done");
            status.setRollbackOnly();
        });

        assertThat(database.count("boat WHERE id = 1")).isEqualTo(1);
        assertThat(database.count("boat")).isEqualTo(3);
    }

    @ParameterizedTest
    @EnumSource(
            value = Engine.class,
            names = {"H2", "POSTGRESQL", "MARIADB"})
    void whatFollowsACommitIsNotLeftInATransactionThatIsOver(Engine engine) {
        Database database = fresh(engine);
        Vacancy vacancy = vacancy(database.source());

        template(database.source()).executeWithoutResult(status -> {
            vacancy.execute(boat(1)).receiptOrThrow();
            TransactionSynchronizationManager.registerSynchronization(new TransactionSynchronization() {
                @Override
                public void afterCommit() {
                    vacancy.execute(boat(2)).receiptOrThrow();
                }

                @Override
                public void afterCompletion(int ended) {
                    vacancy.execute(boat(3)).receiptOrThrow();
                }
            });
        });

        assertThat(database.count("boat")).isEqualTo(1);
        assertThat(heard).containsExactlyInAnyOrder("boat 1 done", "boat 2 done", "boat 3 done");
    }

    @Test
    void aCommitThatIsNotAnsweredIsTold() {
        Database database = fresh(Engine.POSTGRESQL);
        DataSource dying = new DelegatingDataSource(database.source()) {
            @Override
            public Connection getConnection() throws SQLException {
                return silentOnCommit(super.getConnection());
            }
        };
        Vacancy vacancy = vacancy(dying);

        assertThatThrownBy(() -> template(dying)
                        .executeWithoutResult(status -> vacancy.execute(boat(1)).receiptOrThrow()))
                .isInstanceOf(TransactionSystemException.class);

        assertThat(heard).containsExactly("boat 1 in-doubt");
        assertThat(database.count("boat")).isEqualTo(3);
    }

    private static Connection silentOnCommit(Connection connection) {
        return (Connection) Proxy.newProxyInstance(
                Connection.class.getClassLoader(), new Class<?>[] {Connection.class}, (proxy, method, arguments) -> {
                    try {
                        Object result = method.invoke(connection, arguments);
                        if (method.getName().equals("commit")) {
                            throw new SQLException("An I/O error occurred while sending to the backend.", "08006");
                        }
                        return result;
                    } catch (InvocationTargetException failed) {
                        throw failed.getCause();
                    }
                });
    }

    @Test
    void aProxyAroundTheDataSourceIsLookedThrough() {
        Database database = fresh(Engine.H2);
        Vacancy vacancy = vacancy(new TransactionAwareDataSourceProxy(database.source()));

        template(database.source()).executeWithoutResult(status -> {
            vacancy.execute(boat(1)).receiptOrThrow();
            vacancy.separately().execute(boat(2)).receiptOrThrow();
            status.setRollbackOnly();
        });

        assertThat(database.count("boat WHERE id = 1")).isEqualTo(1);
        assertThat(database.count("boat")).isEqualTo(3);
        vacancy.execute(boat(1)).receiptOrThrow();
        assertThat(database.count("boat")).isEqualTo(2);
    }
}

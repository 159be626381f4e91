// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** Stands between a driver and a server on this machine, and loses what it is told to. */
final class LossyProxy implements AutoCloseable {

    /** What becomes of the next thing that a client sends. */
    enum Loss {
        NONE,
        /** It never reaches the server, and both sides are cut off. */
        BEFORE,
        /** It reaches the server, whose answer is lost. */
        ANSWER,
        /** The client is cut off at once, and it reaches the server a while later. */
        LATE
    }

    private final int port;
    private final ServerSocket listening;
    private final Set<Socket> open = ConcurrentHashMap.newKeySet();
    private volatile Loss loss = Loss.NONE;
    private volatile long lateMillis;
    private volatile boolean down;

    LossyProxy(int port) {
        this.port = port;
        try {
            this.listening = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        daemon(this::listen);
    }

    int port() {
        return listening.getLocalPort();
    }

    /** The next thing that is sent over any connection is lost so; everything after it is passed on again. */
    void lose(Loss how, long later) {
        lateMillis = later;
        loss = how;
    }

    /** Whether nobody can connect anew. */
    void down(boolean refused) {
        down = refused;
    }

    private static void daemon(Runnable work) {
        Thread thread = new Thread(work, "proxy");
        thread.setDaemon(true);
        thread.start();
    }

    private void listen() {
        while (!listening.isClosed()) {
            try {
                Socket client = listening.accept();
                if (down) {
                    client.close();
                    continue;
                }
                Socket server = new Socket(InetAddress.getLoopbackAddress(), port);
                open.add(client);
                open.add(server);
                daemon(() -> up(client, server));
                daemon(() -> down(client, server));
            } catch (IOException closed) {
                return;
            }
        }
    }

    private void up(Socket client, Socket server) {
        byte[] bytes = new byte[1 << 16];
        try {
            InputStream in = client.getInputStream();
            OutputStream out = server.getOutputStream();
            for (int count = in.read(bytes); count >= 0; count = in.read(bytes)) {
                Loss now = loss;
                loss = Loss.NONE;
                switch (now) {
                    case NONE -> {
                        out.write(bytes, 0, count);
                        out.flush();
                    }
                    case BEFORE -> {
                        server.close();
                        client.close();
                        return;
                    }
                    case ANSWER -> {
                        answers.add(server);
                        out.write(bytes, 0, count);
                        out.flush();
                    }
                    case LATE -> {
                        late.add(server);
                        client.close();
                        pause(lateMillis);
                        out.write(bytes, 0, count);
                        out.flush();
                        pause(300);
                        server.close();
                        return;
                    }
                }
            }
            server.close();
        } catch (IOException closed) {
            close(client, server);
        }
    }

    private final Set<Socket> answers = ConcurrentHashMap.newKeySet();
    private final Set<Socket> late = ConcurrentHashMap.newKeySet();

    private void down(Socket client, Socket server) {
        byte[] bytes = new byte[1 << 16];
        try {
            InputStream in = server.getInputStream();
            OutputStream out = client.getOutputStream();
            for (int count = in.read(bytes); count >= 0; count = in.read(bytes)) {
                if (late.contains(server)) {
                    continue;
                }
                if (answers.contains(server)) {
                    close(client, server);
                    return;
                }
                out.write(bytes, 0, count);
                out.flush();
            }
            client.close();
        } catch (IOException closed) {
            if (!late.contains(server)) {
                close(client, server);
            }
        }
    }

    private static void pause(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private static void close(Socket... sockets) {
        for (Socket socket : sockets) {
            try {
                socket.close();
            } catch (IOException closedAlready) {
                continue;
            }
        }
    }

    @Override
    public void close() {
        try {
            listening.close();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        close(open.toArray(Socket[]::new));
    }
}

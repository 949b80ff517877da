package dev.mile.sql.parquet;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/** Numbers as Parquet writes them. */
final class LittleEndian {
    private static final VarHandle INTS = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle LONGS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    private LittleEndian() {}

    static int int32(byte[] bytes, int at) {
        return (int) INTS.get(bytes, at);
    }

    static long int64(byte[] bytes, int at) {
        return (long) LONGS.get(bytes, at);
    }
}

package dev.mile.spark;

import dev.mile.engine.NeumaierSum;
import org.apache.spark.sql.Encoder;
import org.apache.spark.sql.Encoders;
import org.apache.spark.sql.expressions.Aggregator;
import scala.Tuple2;

/** Adds floating numbers with compensation, as the core does. */
final class FloatingSum extends Aggregator<Double, Tuple2<Double, Double>, Double> {
    private static final long serialVersionUID = 1L;

    FloatingSum() {}

    @Override
    public Tuple2<Double, Double> zero() {
        return new Tuple2<>(0.0, 0.0);
    }

    @Override
    public Tuple2<Double, Double> reduce(Tuple2<Double, Double> so, Double value) {
        return value == null ? so : added(so._1(), so._2(), value);
    }

    private static Tuple2<Double, Double> added(double sum, double lost, double value) {
        return new Tuple2<>(sum + value, lost + NeumaierSum.roundingError(sum, value));
    }

    @Override
    public Tuple2<Double, Double> merge(Tuple2<Double, Double> a, Tuple2<Double, Double> b) {
        return added(a._1(), a._2() + b._2(), b._1());
    }

    @Override
    public Double finish(Tuple2<Double, Double> sum) {
        return sum._1() + sum._2();
    }

    @Override
    public Encoder<Tuple2<Double, Double>> bufferEncoder() {
        return Encoders.tuple(Encoders.DOUBLE(), Encoders.DOUBLE());
    }

    @Override
    public Encoder<Double> outputEncoder() {
        return Encoders.DOUBLE();
    }
}

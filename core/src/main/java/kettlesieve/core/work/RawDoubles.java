package kettlesieve.core.work;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.databind.DeserializationContext;
import com.fasterxml.jackson.databind.SerializerProvider;
import com.fasterxml.jackson.databind.deser.std.StdDeserializer;
import com.fasterxml.jackson.databind.module.SimpleModule;
import com.fasterxml.jackson.databind.ser.std.StdSerializer;
import java.io.IOException;
import java.io.Serial;
import java.nio.ByteBuffer;

/**
 * Arrays of doubles as raw bytes: results are mostly those, and are to be there at once. Every bit
 * is kept, NaN too.
 */
final class RawDoubles extends SimpleModule {
  @Serial private static final long serialVersionUID = 1;

  RawDoubles() {
    addSerializer(double[].class, new Writer());
    addDeserializer(double[].class, new Reader());
  }

  private static final class Writer extends StdSerializer<double[]> {
    @Serial private static final long serialVersionUID = 1;

    Writer() {
      super(double[].class);
    }

    @Override
    public void serialize(double[] values, JsonGenerator out, SerializerProvider provider)
        throws IOException {
      ByteBuffer bytes = ByteBuffer.allocate(8 * values.length);
      bytes.asDoubleBuffer().put(values);
      out.writeBinary(bytes.array());
    }
  }

  private static final class Reader extends StdDeserializer<double[]> {
    @Serial private static final long serialVersionUID = 1;

    Reader() {
      super(double[].class);
    }

    @Override
    public double[] deserialize(JsonParser in, DeserializationContext context) throws IOException {
      byte[] bytes = in.getBinaryValue();
      double[] values = new double[bytes.length / 8];
      ByteBuffer.wrap(bytes).asDoubleBuffer().get(values);
      return values;
    }
  }
}

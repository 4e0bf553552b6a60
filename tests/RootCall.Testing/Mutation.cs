namespace RootCall.Testing;

/// <summary>A broken variant of a file: bytes flipped, cut, doubled and dropped; the same for the same seed.</summary>
public static class Mutation
{
    public static byte[] Of(byte[] source, Random random)
    {
        var bytes = new List<byte>(source);
        for (var n = random.Next(1, 6); n > 0 && bytes.Count > 1; n--)
        {
            // Early bytes hold the structure, so they are hit more often.
            var at = (int)(bytes.Count * Math.Pow(random.NextDouble(), 2));
            switch (random.Next(5))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes[at] ^= (byte)(1 << random.Next(8));
                    break;
                case 2:
                    bytes.RemoveRange(at, Math.Min(random.Next(1, 40), bytes.Count - at));
                    break;
                case 3:
                    bytes.InsertRange(at, bytes.GetRange(at, Math.Min(random.Next(1, 40), bytes.Count - at)));
                    break;
                default:
                    if (random.Next(4) == 0)
                        bytes.RemoveRange(at, bytes.Count - at);
                    else
                        bytes.Insert(at, (byte)"{}[]\",:\\\n\r#\0"[random.Next(12)]);
                    break;
            }
        }

        return [.. bytes];
    }
}

using System.Data;
using Npgsql;

namespace RootCall.Data.Stores;

/// <summary>
/// Reads rows past the model, their documents as a stream of bytes: between the database and the records of tens of thousands of
/// rows nothing else is made.
/// </summary>
internal static class RawRows
{
    /// <summary>Rows whose columns are read in their order.</summary>
    public static async Task<NpgsqlDataReader> Rows(this NpgsqlCommand command, object parameter, CancellationToken stop)
    {
        command.Parameters.AddWithValue(parameter);
        return await command.ExecuteReaderAsync(CommandBehavior.SequentialAccess, stop);
    }

    /// <summary>What a jsonb column holds; default for null.</summary>
    public static T? Json<T>(this NpgsqlDataReader row, int column)
    {
        if (row.IsDBNull(column))
            return default;
        using var bytes = row.GetStream(column);
        // PostgreSQL sends jsonb as a version, which is 1, and the text (jsonb_send in its jsonb.c).
        if (bytes.ReadByte() != 1)
            throw new InvalidDataException("The database sends jsonb in a form that is not known here.");
        return Stores.Json.Read<T>(bytes);
    }

    /// <summary>What any other column holds; default for null.</summary>
    public static T? Value<T>(this NpgsqlDataReader row, int column) => row.IsDBNull(column) ? default : row.GetFieldValue<T>(column);
}

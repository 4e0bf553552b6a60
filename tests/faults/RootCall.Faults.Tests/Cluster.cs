using System.Diagnostics;
using System.Globalization;
using Npgsql;
using RootCall.Testing;

namespace RootCall.Faults.Tests;

/// <summary>The tests' own PostgreSQL cluster, which <c>./rootcall test</c> starts and these tests kill.</summary>
internal static class Cluster
{
    private static readonly NpgsqlConnectionStringBuilder Connection = new(Environment.GetEnvironmentVariable("ROOTCALL_TEST_DB"));

    private static string Place { get; } =
        Environment.GetEnvironmentVariable("ROOTCALL_TEST_CLUSTER")
        ?? throw new InvalidOperationException(
            "ROOTCALL_TEST_CLUSTER is not set: run these tests with ./rootcall test or ./rootcall faults."
        );

    /// <summary>SIGKILL: it writes nothing down.</summary>
    public static void Kill()
    {
        var first = int.Parse(File.ReadLines(Path.Combine(Place, "data", "postmaster.pid")).First(), CultureInfo.InvariantCulture);
        using var process = Process.GetProcessById(first);
        process.Kill(entireProcessTree: true);
        process.WaitForExit();
    }

    public static void Start()
    {
        const string Script = """
            . "$home/scripts/common.sh"; . "$home/scripts/cluster.sh"
            start_cluster "$1" "$2" fsync=off synchronous_commit=off full_page_writes=off max_connections=200
            """;
        var started = Tool.Run("env", [$"home={Tool.Home}", "bash", "-euc", Script, "cluster", Place, $"{Connection.Port}"]);
        if (started.Status != 0)
            throw new InvalidOperationException(started.Error);
    }

    /// <summary>Keeps everybody from a table until it is disposed.</summary>
    public static IDisposable Lock(string database, string table)
    {
        var connection = new NpgsqlConnection(database + ";Pooling=false");
        connection.Open();
        var transaction = connection.BeginTransaction();
        using var command = new NpgsqlCommand($"LOCK TABLE {table} IN ACCESS EXCLUSIVE MODE", connection, transaction);
        command.ExecuteNonQuery();
        return connection; // Closing it ends the transaction.
    }

    /// <returns>The first value, as text.</returns>
    public static string Sql(string database, string sql)
    {
        using var connection = new NpgsqlConnection(database + ";Pooling=false");
        connection.Open();
        using var command = new NpgsqlCommand(sql, connection);
        return Convert.ToString(command.ExecuteScalar(), CultureInfo.InvariantCulture) ?? string.Empty;
    }
}

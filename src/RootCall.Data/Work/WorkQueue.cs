using Hangfire;
using Hangfire.PostgreSql;

namespace RootCall.Data.Work;

/// <summary>How the queue lies in the database; the web process and the workers must say the same.</summary>
public static class WorkQueue
{
    /// <summary>
    /// A worker that was killed holds its job until this has passed without a sign of life; then another takes it up.
    /// </summary>
    public static readonly TimeSpan GivenUpAfter = TimeSpan.FromSeconds(15);

    public static void UseRootCallQueue(this IGlobalConfiguration configuration, string connection) =>
        configuration
            .SetDataCompatibilityLevel(CompatibilityLevel.Version_180)
            .UseSimpleAssemblyNameTypeSerializer()
            .UseRecommendedSerializerSettings()
            .UsePostgreSqlStorage(
                o => o.UseNpgsqlConnection(connection),
                new PostgreSqlStorageOptions
                {
                    SchemaName = "queue",
                    QueuePollInterval = TimeSpan.FromMilliseconds(200),
                    InvisibilityTimeout = GivenUpAfter,
                    UseSlidingInvisibilityTimeout = true,
                    // Held only for moments; what a killed process held must not stop others for long.
                    DistributedLockTimeout = TimeSpan.FromSeconds(20),
                }
            );
}

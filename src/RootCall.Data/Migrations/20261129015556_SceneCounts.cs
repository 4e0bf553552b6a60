using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class SceneCounts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "revision",
                table: "scenes",
                type: "bigint",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<int>(
                name: "shown_references",
                table: "scenes",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "shown_unanswered",
                table: "scenes",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "reference_count",
                table: "arrivals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "unanswered",
                table: "arrivals",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            // Arrivals that stand already are counted once.
            migrationBuilder.Sql(
                """
                UPDATE arrivals a SET reference_count = c.every, unanswered = c.open
                FROM (
                  SELECT arrival_id, count(*) AS every, count(*) FILTER (WHERE state NOT IN ('present', 'embedded')) AS open
                  FROM "references" GROUP BY arrival_id
                ) c
                WHERE c.arrival_id = a.id
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "revision",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "shown_references",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "shown_unanswered",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "reference_count",
                table: "arrivals");

            migrationBuilder.DropColumn(
                name: "unanswered",
                table: "arrivals");
        }
    }
}

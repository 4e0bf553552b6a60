using System;
using System.Text.Json;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class Audit : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "destination",
                table: "scenes",
                type: "text",
                nullable: false,
                defaultValue: "plain");

            migrationBuilder.AddColumn<JsonDocument>(
                name: "fixed",
                table: "ledger_entries",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<JsonDocument>(
                name: "pixels",
                table: "known_files",
                type: "jsonb",
                nullable: true);

            migrationBuilder.AddColumn<JsonDocument>(
                name: "beside",
                table: "arrivals",
                type: "jsonb",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "waivers",
                columns: table => new
                {
                    scene_id = table.Column<Guid>(type: "uuid", nullable: false),
                    cause = table.Column<string>(type: "text", nullable: false),
                    reason = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_waivers", x => new { x.scene_id, x.cause });
                    table.ForeignKey(
                        name: "fk_waivers_scenes_scene_id",
                        column: x => x.scene_id,
                        principalTable: "scenes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "waivers");

            migrationBuilder.DropColumn(
                name: "destination",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "fixed",
                table: "ledger_entries");

            migrationBuilder.DropColumn(
                name: "pixels",
                table: "known_files");

            migrationBuilder.DropColumn(
                name: "beside",
                table: "arrivals");
        }
    }
}

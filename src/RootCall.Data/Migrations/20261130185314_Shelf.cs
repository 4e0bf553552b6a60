using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class Shelf : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "audited_revision",
                table: "scenes",
                type: "bigint",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "shown_blockers",
                table: "scenes",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "shown_warnings",
                table: "scenes",
                type: "integer",
                nullable: true);

            migrationBuilder.AddColumn<List<string>>(
                name: "material_names",
                table: "arrivals",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");
            // Scenes that are there already are found by their materials, too.
            migrationBuilder.Sql(
                """
                UPDATE arrivals SET material_names = ARRAY(
                    SELECT DISTINCT m->>'name' FROM jsonb_array_elements(scene->'materials') m WHERE m->>'name' IS NOT NULL
                )
                WHERE jsonb_typeof(scene->'materials') = 'array'
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "audited_revision",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "shown_blockers",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "shown_warnings",
                table: "scenes");

            migrationBuilder.DropColumn(
                name: "material_names",
                table: "arrivals");
        }
    }
}

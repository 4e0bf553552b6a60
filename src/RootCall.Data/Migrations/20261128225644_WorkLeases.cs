using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class WorkLeases : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "attempts",
                table: "work",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "lease_until",
                table: "work",
                type: "timestamp with time zone",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "token",
                table: "work",
                type: "uuid",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "attempts",
                table: "work");

            migrationBuilder.DropColumn(
                name: "lease_until",
                table: "work");

            migrationBuilder.DropColumn(
                name: "token",
                table: "work");
        }
    }
}

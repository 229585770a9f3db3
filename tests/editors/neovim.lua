-- Asks a server what an editor asks, in Neovim with its built-in client, and renames a file; prints what came, a line each.
--   nvim --headless -u NONE -l is newer than Debian's; so: PROGRAM=… FROM=… TO=… nvim --headless -u NONE -c "luafile neovim.lua"
local function say(text) io.stdout:write(text .. "\n") end
local ok, problem = pcall(function()
  local from, to = vim.fn.getcwd() .. "/" .. vim.env.FROM, vim.fn.getcwd() .. "/" .. vim.env.TO
  vim.cmd("edit main.c")
  local id = vim.lsp.start_client({ name = "yellow-compass", cmd = { vim.env.PROGRAM, "serve" }, root_dir = vim.fn.getcwd() })
  vim.lsp.buf_attach_client(0, id)
  local client = vim.lsp.get_client_by_id(id)
  vim.wait(10000, function() return client.initialized end, 50)
  vim.wait(10000, function() return #vim.diagnostic.get(0) > 0 end, 50)
  for _, one in ipairs(vim.diagnostic.get(0)) do say("finding " .. one.lnum .. " " .. one.code) end
  local here = { textDocument = vim.lsp.util.make_text_document_params() }
  for _, link in ipairs(client.request_sync("textDocument/documentLink", here, 10000, 0).result) do
    say("link " .. link.range.start.line .. " " .. vim.fn.fnamemodify(vim.uri_to_fname(link.target), ":t"))
  end
  vim.api.nvim_win_set_cursor(0, { 1, 12 })
  local at = vim.lsp.util.make_position_params(0, client.offset_encoding)
  at.context = { includeDeclaration = true }
  for _, user in ipairs(client.request_sync("textDocument/references", at, 10000, 0).result) do
    say("user " .. vim.fn.fnamemodify(vim.uri_to_fname(user.uri), ":t") .. " " .. user.range.start.line)
  end
  -- As docs/editors.md sets it up.
  local files = { files = { { oldUri = vim.uri_from_fname(from), newUri = vim.uri_from_fname(to) } } }
  local answer = client.request_sync("workspace/willRenameFiles", files, 60000, 0)
  if answer.err then say("refused " .. answer.err.message) return end
  if answer.result then vim.lsp.util.apply_workspace_edit(answer.result, client.offset_encoding) end
  vim.cmd("silent wall")
  vim.fn.mkdir(vim.fn.fnamemodify(to, ":h"), "p")
  vim.lsp.util.rename(from, to)
  client.notify("workspace/didRenameFiles", files)
  vim.cmd("silent wall")
  vim.wait(1000)
  say("renamed")
  client.stop()
  vim.wait(3000, function() return client.is_stopped() end, 50)
end)
if not ok then say("problem " .. tostring(problem)) end
vim.cmd("qall!")
